import { initWasm } from '@resvg/resvg-wasm';
import fc from 'fast-check';
import { readFileSync } from 'node:fs';
import sharp from 'sharp';
import { prepareZXingModule } from 'zxing-wasm/reader';
import {
  FINEST_VERSION,
  PLAIN_STYLE,
  smallestMm,
  distanceMm,
  symbolFor,
  symbolInStyle,
  type CodeStyle,
} from '@/core/qr';
import { greyPicture, projected, projection, shrunk, type Grey } from './grey';
import { throughJpeg } from './jpeg';
import { tryCode } from './prove';
import { READ } from './readers';
import { baseOf, proveStyled, remedyOf } from './report';
import { readByBoth } from './shape';
import { trialPicture, type Trial } from './trials';

const wasm = (name: string) => readFileSync(require.resolve(name));
const bytes = wasm('zxing-wasm/reader/zxing_reader.wasm');
beforeAll(async () => {
  prepareZXingModule({
    overrides: { wasmBinary: bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer },
  });
  await initWasm(wasm('@resvg/resvg-wasm/index_bg.wasm'));
});
const LINK = 'HTTPS://C.TARNHOPE.EXAMPLE/H/7K3M9QWD';
const styled = (change: Partial<CodeStyle>): CodeStyle => ({ ...PLAIN_STYLE, ...change });
const seen = (style: CodeStyle, trial: Omit<Trial, 'kind' | 'seed'>) =>
  trialPicture(baseOf(symbolFor(LINK), style), { kind: 'sharp', seed: 1, ...trial }, 700);

/* Starting values measured on 5,665 pictures of codes (versions 2 to 34; zxing-wasm, zbar, jsQR), as checks.md has them. */
test('clean codes read at 2 pixels a module and not out of focus at 1.2; blur of 0.4 of a module reads, of 0.9 does not (checks.md)', async () => {
  expect(await READ.zxing(seen(PLAIN_STYLE, { scale: 2 }))).toBe(LINK);
  expect(await READ.zxing(seen(PLAIN_STYLE, { scale: 1.2, blur: 0.7 }))).toBeNull();
  expect(await READ.zxing(seen(PLAIN_STYLE, { scale: 4, blur: 0.4 }))).toBe(LINK);
  expect(await READ.zxing(seen(PLAIN_STYLE, { scale: 4, blur: 0.9 }))).toBeNull();
});

test.each<[string, Partial<CodeStyle>, boolean]>([
  ['plain', {}, true],
  ['round dots of 84 %', { modules: 'dots', fill: 84 }, true],
  ['round dots of 55 %', { modules: 'dots', fill: 55 }, false],
  ['pale corner squares', { finders: '#E8C4B4' }, false],
  ['a gradient through white', { gradient: { to: '#FFFFFF', way: 'across' } }, false],
  ['the same colour on the same colour', { ink: '#808080', ground: '#808080' }, false],
  ['light on dark', { ink: '#FFFFFF', ground: '#000000' }, false],
  ['dark on a house colour', { ink: '#2A2422', ground: '#F5F3EE' }, true],
])(
  'what usually breaks a styled code fails, and what does not passes: %s (common practice, no published source)',
  async (_, change, passes) => {
    const report = (await proveStyled(LINK, styled(change)))!;
    expect([report.faults.length === 0, report.proof.misread]).toEqual([passes, 0]);
  },
);

/** A contact as people have them, with so many letters of a note; its version depends on that alone. */
const contactOf = (letters: number) =>
  `BEGIN:VCARD\r\nVERSION:3.0\r\nN:Brandreth;Odile;;;\r\nTEL:+447700900731\r\nEMAIL:odile@brandreth.example\r\nNOTE:${'heath '.repeat(letters / 6)}\r\nEND:VCARD\r\n`;

/* That plain codes read: ISO/IEC 18004 knows no version that does not; beyond 32 one of the readers finds no grid so fine. */
test.each([0, 60, 120, 240, 480, 900, 1_200])(
  'a plain contact with %i letters more passes, whatever its version up to 32',
  async (letters) => {
    const { version } = symbolFor(contactOf(letters));
    const { faults } = (await proveStyled(contactOf(letters), PLAIN_STYLE))!;
    expect([version, version <= FINEST_VERSION, faults]).toEqual([version, true, []]);
  },
);

test('what no style can mend is told without a remedy', async () => {
  const report = (await proveStyled(contactOf(2_100), PLAIN_STYLE))!;
  expect([report.version > FINEST_VERSION, report.faults]).toEqual([true, ['reads too little']]);
  expect(await remedyOf(report, PLAIN_STYLE)).toBeNull();
});

test('no reader ever returns a wrong text, however little it is given; full and quick trials are the same at every run (checks.md)', async () => {
  const base = baseOf(symbolFor(LINK), styled({ ink: '#A8A8A8' }));
  const hard = Array.from({ length: 20 }, (_, at): Trial => ({
    kind: 'far',
    scale: 1.4 + at / 20,
    blur: 0.4,
    grain: 30,
    seed: at + 1,
  }));
  const once = (await tryCode(base, LINK, hard, { readers: ['zxing', 'qr', 'zbar'], pixels: 350 }))!;
  const again = (await tryCode(base, LINK, hard, { readers: ['zxing', 'qr', 'zbar'], pixels: 350 }))!;
  expect(once.misread).toBe(0);
  expect(again).toEqual(once);
  expect(await tryCode(base, LINK, hard, { readers: ['zxing'], pixels: 350, progress: (done) => done < 3 })).toBeNull();
});

test('darkening only the finder patterns raises the read rate, and is found by trying (common practice, no published source)', async () => {
  const style = styled({ finders: '#D98C6A', modules: 'dots', fill: 90 });
  const report = (await proveStyled(LINK, style))!;
  const remedy = await remedyOf(report, style);
  expect(remedy).toMatchObject({ remedy: 'darken finders', before: readByBoth(report.proof).read });
  expect(remedy!.after).toBeGreaterThan(remedy!.before);
  expect((await proveStyled(LINK, remedy!.style))!.faults).toEqual([]);
});

test('a level rises with a mark until it costs half of what the standard guarantees at most; what is left is counted', async () => {
  const square = await sharp({ create: { width: 60, height: 60, channels: 3, background: '#46624f' } })
    .png()
    .toBuffer();
  const mark = { href: `data:image/png;base64,${square.toString('base64')}`, ratio: 1 };
  const [small, large] = [4, 12].map((percent) => styled({ mark: { ...mark, percent } }));
  expect(symbolInStyle(LINK, small!).level).toBe('Q');
  expect(symbolInStyle(LINK, large!).level).toBe('H');
  const { spent, faults } = (await proveStyled(LINK, small!))!;
  expect(faults).toEqual([]);
  expect(spent.byMark).toBeGreaterThan(0);
  expect(spent.byMark).toBeLessThanOrEqual(spent.guaranteed / 2);
});

test('larger prints are read from farther, never beyond ten times their width; denser codes have to be larger', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 40 }),
      fc.integer({ min: 5, max: 500 }),
      fc.double({ min: 1.6, max: 6, noNaN: true }),
      (version, width, pixels) => {
        const size = 17 + 4 * version;
        expect(distanceMm(width + 1, size, pixels)).toBeGreaterThan(distanceMm(width, size, pixels));
        expect(distanceMm(width, size, pixels)).toBeLessThanOrEqual(width * 10);
        expect(smallestMm(size + 4, pixels)).toBeGreaterThan(smallestMm(size, pixels));
      },
    ),
  );
});

test('a projection takes four points to four others; a picture made smaller keeps its mean', () => {
  const from = [
    [0, 0],
    [10, 0],
    [10, 10],
    [0, 10],
  ] as const;
  const to = [
    [3, 4],
    [22, 1],
    [25, 30],
    [1, 28],
  ] as const;
  const through = projection(from, to);
  from.forEach(([x, y], at) =>
    projected(through, x, y).forEach((value, axis) => expect(value).toBeCloseTo(to[at]![axis]!, 6)),
  );
  const picture: Grey = greyPicture(37, 23);
  picture.data.forEach((_, at) => (picture.data[at] = (at * 73) % 256));
  const mean = ({ data }: Grey) => data.reduce((sum, level) => sum + level, 0) / data.length;
  expect(mean(shrunk(picture, 11, 7))).toBeCloseTo(mean(picture), 0);
});

test('what JPEG leaves at a quality is near what libjpeg leaves (sharp)', async () => {
  const { picture } = baseOf(symbolFor(LINK), styled({ ink: '#404040', ground: '#D0D0D0' }));
  const small = shrunk(picture, 96, 96);
  const { data } = await sharp(Buffer.from(small.data), { raw: { width: 96, height: 96, channels: 1 } })
    .jpeg({ quality: 40, mozjpeg: false })
    .toBuffer()
    .then((bytes) => sharp(bytes).greyscale().raw().toBuffer({ resolveWithObject: true }));
  const ours = throughJpeg(small, 40);
  const apart = ours.data.reduce((sum, level, at) => sum + Math.abs(level - data[at]!), 0) / ours.data.length;
  expect(apart).toBeLessThan(2);
});
