import fc from 'fast-check';
import { previewFrom } from '@/core/address';
import { askedBy, isPublicPath } from './asked';

const HASH = 'a1'.repeat(32);
const at = (path: string) => askedBy(path)?.what ?? null;

test.each<[string, object]>([
  ['', { output: 'page' }],
  ['.vcf', { output: 'file' }],
  ['/tap', { output: 'tap' }],
  ['/code.svg', { output: 'code' }],
  ['/manifest.webmanifest', { output: 'manifest' }],
  ['/worker.js', { output: 'worker' }],
  [`/photo-${HASH}.jpg`, { output: 'photo', hash: HASH }],
  [`/photo-${HASH}-broad.avif`, { output: 'light photo', hash: HASH, broad: true }],
  [`/logo-${HASH}.png`, { output: 'logo', hash: HASH }],
  [`/file-${HASH}`, { output: 'block file', hash: HASH }],
  [`/file-${HASH}.webp`, { output: 'light file', hash: HASH }],
  [`/signed-${HASH}.png`, { output: 'signed logo', hash: HASH }],
  ['/map-office-1', { output: 'map', line: 'office-1' }],
  ['/signature.html', { output: 'signature', variant: 'message', form: 'html' }],
  ['/signature-reply.txt', { output: 'signature', variant: 'reply', form: 'txt' }],
  ['/strip-cable-days', { output: 'strip', id: 'cable-days' }],
  [
    '/link-pt-BR-0123456789abcdef.jpg',
    { output: 'drawn', face: 'link', language: 'pt-BR', key: '0123456789abcdef', format: 'jpeg' },
  ],
])('“%s” below an address, a code and a preview asks for %j', (part, what) => {
  const preview = previewFrom(Uint8Array.from({ length: 16 }, (_, each) => each));
  for (const [base, key] of [
    ['/c/ilse-varrow', { address: 'ilse-varrow' }],
    ['/h/7K3M9QXZ', { code: '7K3M9QXZ' }],
    [`/p/${preview}`, { preview }],
  ] as const) {
    // Of a preview no taps are counted.
    const wanted = part === '/tap' && base.startsWith('/p') ? null : { key, what, base };
    expect(askedBy(`${base}${part}`)).toEqual(wanted);
  }
});

test('case never matters, nor letters that look like digits (Crockford’s decoding rule), nor a slash at the end', () => {
  for (const path of ['/h/7k3m9qxz', '/H/7K3M-9QXZ', '/h/7K3M9QXZ/'])
    expect(askedBy(path)?.key).toEqual({ code: '7K3M9QXZ' });
  expect(askedBy('/h/oiL00000')?.key).toEqual({ code: '01100000' });
  expect(askedBy('/C/Ilse-Varrow.VCF')).toMatchObject({ key: { address: 'ilse-varrow' }, what: { output: 'file' } });
});

test.each([
  '/h/7K3M9QXU',
  '/h/7K3M9QX',
  '/c/a',
  '/c/login',
  '/c/ilse/../etc',
  '/c/ilse/passwd',
  `/c/ilse/photo-${HASH}`,
  '/c/ilse/signature.exe',
  '/c/ilse.vcf.vcf',
  '/x/7K3M9QXZ',
  '/p/short',
  '//c/ilse',
  '/c/ilsé',
])('%s is nothing that a recipient could ask for', (path) => expect(at(path)).toBeNull());

test('whatever somebody sends, it is read at once, the same each time, and what it asks for stands below its own base', () => {
  const piece = fc.oneof(
    fc.string({ maxLength: 30 }),
    fc.constantFrom('/c/', '/h/', '/p/', '..', '%2e%2e', '/', '.vcf', `photo-${HASH}.jpg`, '\0', 'ilse', '7K3M9QXZ'),
  );
  fc.assert(
    fc.property(
      fc.array(piece, { maxLength: 6 }).map((pieces) => pieces.join('')),
      (path) => {
        const asked = askedBy(path);
        expect(askedBy(path)).toBe(asked);
        if (!asked) return;
        expect([
          isPublicPath(path),
          path.toLowerCase().replace(/-/g, '').startsWith(asked.base.slice(0, 3).toLowerCase()),
        ]).toEqual([true, true]);
        expect(asked.base).toMatch(/^\/(c\/[a-z0-9-]{3,60}|h\/[0-9A-HJKMNP-TV-Z]{8}|p\/[0-9A-HJKMNP-TV-Z]{16})$/);
      },
    ),
    { numRuns: 500 },
  );
  const began = performance.now();
  for (const long of ['/c/'.repeat(100_000), `/h/${'-'.repeat(500_000)}`, `/c/${'a'.repeat(500_000)}/photo-`])
    expect(askedBy(long)).toBeNull();
  expect(performance.now() - began).toBeLessThan(500);
});
