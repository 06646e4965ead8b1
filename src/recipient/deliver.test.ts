import { brotliDecompressSync, gunzipSync, gzipSync } from 'node:zlib';
import { deliver } from './deliver';
import type { Output } from './outputs';

const TEXT = '<!doctype html><p>Odile Brandreth records birds, bogs and the wind over heath.</p>'.repeat(40);
const outputOf = (text: string, compressed = true): Output => ({
  body: Buffer.from(text),
  gzip: compressed ? gzipSync(text) : null,
  etag: '"1"',
  headers: {},
});
const ask = (output: Output, accept: string, method: 'GET' | 'HEAD' = 'GET') =>
  deliver(
    { method, header: (name: string) => (name === 'accept-encoding' ? accept : '') } as never,
    output,
    'public, max-age=60',
    {},
  );
const codingOf = (answer: ReturnType<typeof ask>) => answer.headers['Content-Encoding'] ?? 'none';
const soon = () => new Promise((resolve) => setTimeout(resolve, 100));
/** A count that has stopped growing, whatever else the machine has to do. */
async function settled(count: () => number): Promise<number> {
  for (let before = -1; ; await soon()) {
    const now = count();
    if (now > 0 && now === before) return now;
    before = now;
  }
}

/** Which coding is sent is RFC 9110 12.5.3; that it says the same is told by the platform's own readers (RFC 7932, RFC 1952). */
test('the first who takes brotli has gzip, who comes after it has brotli; both say the same, in fewer bytes', async () => {
  const output = outputOf(TEXT);
  const [first] = [ask(output, 'gzip, deflate, br')];
  expect([codingOf(first), gunzipSync(first.body as Buffer).toString()]).toEqual(['gzip', TEXT]);
  await settled(() => (output.brotli ? 1 : 0));
  const second = ask(output, 'gzip, deflate, br');
  expect([codingOf(second), brotliDecompressSync(second.body as Buffer).toString()]).toEqual(['br', TEXT]);
  expect(Number(second.headers['Content-Length'])).toBeLessThan(Number(first.headers['Content-Length']));
  expect(second.headers.Vary).toBe('Accept-Encoding');
  expect(ask(output, 'br', 'HEAD')).toMatchObject({ body: '', headers: { 'Content-Encoding': 'br' } });
  expect(
    ['gzip', 'br;q=0, gzip', 'br; q=0.0, gzip', 'broad, gzip', 'identity', ''].map((a) => codingOf(ask(output, a))),
  ).toEqual(['gzip', 'gzip', 'gzip', 'gzip', 'none', 'none']);
});

test('what brotli makes no shorter stays gzip; what is never compressed is left as it is; a thousand at once wait for nobody', async () => {
  // Gzip of nothing is twenty bytes; made shorter here than anything can be.
  const short = { ...outputOf(TEXT), gzip: Buffer.from([0]) };
  ask(short, 'br');
  const file = outputOf(TEXT, false);
  expect(codingOf(ask(file, 'br, gzip'))).toBe('none');
  const many = Array.from({ length: 1_000 }, () => outputOf(TEXT));
  // Each is answered with what is there, and few are compressed meanwhile.
  expect(new Set(many.map((output) => codingOf(ask(output, 'gzip, br'))))).toEqual(new Set(['gzip']));
  const made = await settled(() => many.filter((output) => output.brotli).length);
  expect(codingOf(ask(short, 'br, gzip'))).toBe('gzip');
  expect(made).toBeGreaterThan(10);
  expect(made).toBeLessThan(60);
});
