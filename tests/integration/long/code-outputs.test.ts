import { PDFDocument } from '@cantoo/pdf-lib';
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { inflateSync } from 'node:zlib';
import sharp from 'sharp';
import { useCommands } from '../heathland';
import { zbarimg } from '../zbarimg';

/* What goes out is read by Debian's zbarimg, PDF through poppler's pdftoppm: programs that stand near nothing of ours. */
const FOLDER = mkdtempSync(path.join(tmpdir(), 'heathland-codes-'));
const at = (name: string) => path.join(FOLDER, name);
const heathland = useCommands();
const code = (...args: string[]) => heathland(process.env, 'code', ...args);

const STYLE = {
  ...{ ink: '#7A2E12', finders: '#8C3A1C', modules: 'dots', fill: 88, finderShape: 'soft' },
  ...{ words: 'Save Ilse’s contact', gradient: { to: '#1B4D3E', way: 'outwards' } },
};
writeFileSync(at('style.json'), JSON.stringify(STYLE));
// Its words along all four edges, turned in vectors and in pixels.
writeFileSync(at('around.json'), JSON.stringify({ ...STYLE, around: true }));
const styleOf = (format: string) => at(format === 'pdf' || format === 'jpg' ? 'around.json' : 'style.json');

/** The picture that a file of any format is read from. */
function asPicture(name: string): string {
  if (!name.endsWith('.pdf')) return name;
  spawnSync('pdftoppm', ['-r', '300', '-png', '-singlefile', at(name), at(`${name}-page`)]);
  return `${name}-page.png`;
}

test.each(['plain', 'styled'])(
  'a %s code reads in every format, umlauts included',
  async (kind) => {
    const text = 'Grüße aus Tarnhope: https://c.tarnhope.example/h/7K3M9QWD';
    for (const format of ['svg', 'pdf', 'png', 'jpg']) {
      const name = `${kind}.${format}`;
      const styled = kind === 'styled' ? ['--style', styleOf(format)] : [];
      const made = code('make', '--text', text, ...styled, '--mm', '40', '--dpi', '300', '--out', at(name));
      expect([name, made.status, made.stderr]).toEqual([name, 0, '']);
      const picture = asPicture(name);
      // A painter of another origin than the proof's.
      if (format === 'svg')
        await sharp(at(name), { density: 300 })
          .flatten({ background: '#fff' })
          .png()
          .toFile(at(`${name}.png`));
      expect([name, zbarimg(at(format === 'svg' ? `${name}.png` : picture))]).toEqual([name, [text]]);
    }
    const { width, density } = await sharp(at(`${kind}.png`)).metadata();
    // 40 mm at 300 dpi.
    expect([width, density]).toEqual([472, 300]);
    expect(readFileSync(at(`${kind}.svg`), 'utf8')).toContain('width="40mm"');
    // Words along the edges are within the width that was asked for: 40 mm are 113.39 points, each way.
    const { stdout } = spawnSync('pdfinfo', [at(`${kind}.pdf`)], { encoding: 'utf8' });
    expect(stdout).toMatch(/Page size:\s+113\.3\d* x 113\.3\d* pts/);
  },
  60_000,
);

test('a PDF is as large as the code, its black is the black ink alone, and the same order gives the same bytes (pdfinfo, ISO 32000)', () => {
  for (const name of ['once.pdf', 'again.pdf']) code('make', '--text', 'heath', '--mm', '50', '--out', at(name));
  const { stdout } = spawnSync('pdfinfo', [at('once.pdf')], { encoding: 'utf8' });
  // 50 mm are 141.73 points.
  expect(stdout).toMatch(/Page size:\s+141\.73\d* x 141\.73\d* pts/);
  expect(readFileSync(at('once.pdf'))).toEqual(readFileSync(at('again.pdf')));
  const [, content] = /stream\r?\n([\s\S]*?)\r?\nendstream/.exec(readFileSync(at('once.pdf'), 'latin1'))!;
  // ISO 32000-1, 8.6.8: `k` sets cyan, magenta, yellow and black.
  expect(inflateSync(Buffer.from(content!, 'latin1')).toString('latin1')).toMatch(/\b0 0 0 1 k\n/);
});

test('prove tells what a script needs, and fails what does not scan', async () => {
  code('make', '--text', 'heath at dusk', '--out', at('good.png'));
  const good = code('prove', at('good.png'), '--json');
  expect(good.status).toBe(0);
  expect(JSON.parse(good.stdout)).toMatchObject({
    text: 'heath at dusk',
    verdict: 'pass',
    remedy: null,
    smallestMm: expect.any(Number),
    read: { zxing: 24, qr: 24 },
  });
  expect((JSON.parse(good.stdout) as { trials: unknown[] }).trials).toHaveLength(24);
  // One code inverted, and a picture without any.
  await sharp(at('good.png')).negate({ alpha: false }).toFile(at('turned.png'));
  const turned = code('prove', at('turned.png'), '--json');
  expect([turned.status, JSON.parse(turned.stdout)]).toMatchObject([
    1,
    { text: 'heath at dusk', verdict: 'fail', remedy: expect.stringContaining('dark on light') },
  ]);
  await sharp({ create: { width: 300, height: 300, channels: 3, background: '#46624f' } })
    .png()
    .toFile(at('none.png'));
  const none = code('prove', at('none.png'), '--json');
  expect([none.status, JSON.parse(none.stdout)]).toMatchObject([1, { text: null, verdict: 'fail' }]);
});

test('what cannot be made or read is told in a sentence', () => {
  writeFileSync(at('torn.json'), '{"ink":');
  writeFileSync(at('odd.json'), '{"ink":"red"}');
  writeFileSync(
    at('mark.json'),
    JSON.stringify({ mark: { href: 'data:image/png;base64,AAAA', ratio: 1, percent: 60 } }),
  );
  writeFileSync(at('no.pdf'), '%PDF-1.4 and nothing else');
  const refused = (...args: string[]) => {
    const { status, stderr } = code(...args);
    return [status, stderr.split('\n')[0]];
  };
  expect(refused('make', '--text', 'ü'.repeat(2_000), '--out', at('x.svg'))).toEqual([
    1,
    expect.stringContaining('2330'),
  ]);
  expect(refused('make', '--text', '', '--out', at('x.svg'))).toEqual([1, expect.stringContaining('nothing')]);
  expect(refused('make', '--text', 'a', '--mm', '0', '--out', at('x.svg'))).toEqual([
    1,
    '--mm is a number from 3 to 2000.',
  ]);
  expect(refused('make', '--text', 'a', '--style', at('torn.json'), '--out', at('x.svg'))).toEqual([
    1,
    expect.stringContaining('no JSON'),
  ]);
  expect(refused('make', '--text', 'a', '--style', at('odd.json'), '--out', at('x.svg'))).toEqual([
    1,
    expect.stringContaining('ink'),
  ]);
  expect(refused('make', '--text', 'a', '--style', at('mark.json'), '--out', at('x.svg'))).toEqual([
    1,
    expect.stringContaining('percent'),
  ]);
  expect(refused('make', '--text', 'a', '--out', at('x.gif'))).toEqual([
    1,
    expect.stringContaining('./heathland code make'),
  ]);
  expect(refused('prove', at('no.pdf'))).toEqual([1, expect.stringContaining('PDF')]);
  expect(refused('prove', at('nowhere.png'))).toEqual([1, expect.stringContaining('no file')]);
  // Half a letter is made whole as UTF-8 does everywhere.
  expect(code('make', '--text', 'a\ud800b', '--out', at('half.png')).status).toBe(0);
  expect(zbarimg(at('half.png'))).toEqual(['a\ufffdb']);
});

test('of a document each code is proven, up to a limit of pages; a locked one is told apart', async () => {
  code('make', '--text', 'heath at dusk', '--out', at('one.png'));
  const document = async (name: string, pages: number, codes: (page: number) => number, locked = false) => {
    const made = await PDFDocument.create();
    const picture = await made.embedPng(readFileSync(at('one.png')));
    for (let page = 0; page < pages; page += 1) {
      const sheet = made.addPage([400, 160]);
      for (let each = 0; each < codes(page); each += 1)
        sheet.drawImage(picture, { x: 10 + each * 130, y: 30, width: 100, height: 100 });
    }
    if (locked) made.encrypt({ userPassword: 'heath', ownerPassword: 'heath' });
    writeFileSync(at(name), await made.save());
  };
  await document('three.pdf', 1, () => 3);
  const three = code('prove', at('three.pdf'), '--json');
  expect([three.status, JSON.parse(three.stdout)]).toMatchObject([
    0,
    // 100 points are 35.3 mm, of which the margin is not the symbol's.
    {
      verdict: 'pass',
      widthMm: expect.closeTo((35.28 * 21) / 29, 0),
      others: [{ verdict: 'pass' }, { verdict: 'pass' }],
    },
  ]);
  await document('many.pdf', 300, (page) => (page === 200 ? 1 : 0));
  const many = code('prove', at('many.pdf'));
  expect([many.status, many.stdout]).toEqual([1, expect.stringContaining('first 12 of 300 pages')]);
  await document('locked.pdf', 1, () => 1, true);
  expect(code('prove', at('locked.pdf')).stderr).toContain('locked with a password');
});
