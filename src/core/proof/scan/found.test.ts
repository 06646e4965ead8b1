import { initWasm } from '@resvg/resvg-wasm';
import { readFileSync } from 'node:fs';
import { prepareZXingModule } from 'zxing-wasm/reader';
import { PLAIN_STYLE, QUIET_ZONE, symbolFor, type CodeStyle, type Symbol } from '@/core/qr';
import { greyPicture, mapped, projected, projection, warped, type Corners, type Grey } from './grey';
import { AROUND, locate, straightened } from './locate';
import { repairOf } from './repair';
import { baseOf, proveFound } from './report';

const wasm = (name: string) => readFileSync(require.resolve(name));
const bytes = wasm('zxing-wasm/reader/zxing_reader.wasm');
beforeAll(async () => {
  prepareZXingModule({
    overrides: { wasmBinary: bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer },
  });
  await initWasm(wasm('@resvg/resvg-wasm/index_bg.wasm'));
});
const TEXTS = [
  'HTTPS://C.TARNHOPE.EXAMPLE/H/7K3M9QWD',
  'https://odile.example/a-longer-path?with=words',
  'Zwölf Boxkämpfer jagen Eva quer über den Sylter Deich. '.repeat(4),
];

/** A code as a camera has it: its sheet, margin and all, lies with its corners at these places of a picture. */
function photographed(
  symbol: Symbol,
  sheet: Corners,
  {
    style = PLAIN_STYLE,
    ground = 200,
    width = 700,
    height = 620,
  }: { style?: CodeStyle; ground?: number; width?: number; height?: number } = {},
) {
  const { picture, perModule, side } = baseOf(symbol, style);
  const whole: Corners = [
    [0, 0],
    [picture.width, 0],
    [picture.width, picture.height],
    [0, picture.height],
  ];
  const made = warped(picture, projection(sheet, whole), width, height, ground);
  // Where the symbol itself begins and ends, seen the same way: known, and not measured.
  const [from, to] = [QUIET_ZONE * perModule, (side - QUIET_ZONE) * perModule];
  const there = projection(whole, sheet);
  const truth = [
    [from, from],
    [to, from],
    [to, to],
    [from, to],
  ].map(([x, y]) => projected(there, x!, y!));
  return { picture: made, truth, perModule };
}
const apart = ([x, y]: readonly [number, number], [u, v]: readonly [number, number]) => Math.hypot(x - u, y - v);

test.each<[string, Corners]>([
  [
    'upright',
    [
      [150, 110],
      [550, 110],
      [550, 510],
      [150, 510],
    ],
  ],
  [
    'turned',
    [
      [350, 40],
      [620, 310],
      [350, 580],
      [80, 310],
    ],
  ],
  [
    'on its head',
    [
      [550, 510],
      [150, 510],
      [150, 110],
      [550, 110],
    ],
  ],
  [
    'tilted away',
    [
      [210, 120],
      [490, 140],
      [560, 520],
      [140, 500],
    ],
  ],
  [
    'seen from the side',
    [
      [140, 100],
      [500, 170],
      [520, 470],
      [120, 540],
    ],
  ],
])(
  'a code that is %s is found where it stands, to a third of a module, with the modules that it was drawn with (ISO/IEC 18004, by our own drawing)',
  async (_, sheet) => {
    for (const text of TEXTS) {
      const symbol = symbolFor(text);
      const { picture, truth } = photographed(symbol, sheet);
      const [found, ...more] = await locate(picture, 4);
      expect([found?.text, found?.size, more.length, found?.inverted]).toEqual([text, symbol.size, 0, false]);
      const off = found!.corners.map((corner, at) => apart(corner, truth[at]!) / found!.pixels);
      expect(Math.max(...off)).toBeLessThan(0.34);
      expect(
        [...found!.modules].filter((dark, at) => dark !== Number(symbol.dark[at])).length / found!.modules.length,
      ).toBeLessThan(0.02);
      // Straightened it is the code again: the middle of each module is as dark as it was drawn.
      const base = straightened(picture, found!);
      let wrong = 0;
      for (let row = 0; row < symbol.size; row += 1)
        for (let column = 0; column < symbol.size; column += 1) {
          const [x, y] = [column, row].map((at) => Math.floor((at + AROUND + 0.5) * base.perModule));
          const dark = base.picture.data[y! * base.picture.width + x!]! < 128;
          if (dark !== Boolean(symbol.dark[row * symbol.size + column])) wrong += 1;
        }
      expect(wrong / symbol.size ** 2).toBeLessThan(0.02);
    }
  },
);

test('two codes of one picture are both found, each with its own; a picture of none has none', async () => {
  const [one, two] = TEXTS.slice(0, 2).map((text) => symbolFor(text)) as [Symbol, Symbol];
  const left = photographed(one, [
    [30, 60],
    [330, 60],
    [330, 360],
    [30, 360],
  ]).picture;
  const right = photographed(two, [
    [370, 200],
    [680, 220],
    [670, 540],
    [360, 520],
  ]).picture;
  const both: Grey = { ...left, data: left.data.map((level, at) => Math.min(level, right.data[at]!)) };
  expect((await locate(both, 4)).map(({ text }) => text).sort()).toEqual(TEXTS.slice(0, 2).sort());
  expect(await locate(greyPicture(300, 300, 180), 4)).toEqual([]);
});

const UPRIGHT: Corners = [
  [150, 110],
  [550, 110],
  [550, 510],
  [150, 510],
];
const repaired = async (picture: Grey) => {
  const [found] = await locate(picture, 1);
  const report = (await proveFound(picture, found!))!;
  return { faults: report.faults, repair: await repairOf(picture, report) };
};

test('what is wrong with a printed code is mended by the change that undoes it, tried on the very picture', async () => {
  const symbol = symbolFor(TEXTS[0]!);
  const { picture } = photographed(symbol, UPRIGHT, { ground: 255 });
  expect((await repaired(picture)).faults).toEqual([]);
  // Light on dark: few cameras read it, turned over all do.
  const turned = await repaired(mapped(picture, (level) => 255 - level));
  expect([turned.faults.includes('inverted'), turned.repair?.repair]).toEqual([true, 'turn over']);
  // A dark sheet right beside it: the margin is what is missing.
  const tight = photographed(symbol, UPRIGHT, { ground: 30 }).picture;
  const [found] = await locate(tight, 1);
  const inside = found!.corners;
  const edge = 1.2 * found!.pixels;
  const cut = {
    ...tight,
    data: tight.data.map((level, at) => {
      const [x, y] = [at % tight.width, Math.floor(at / tight.width)];
      const within =
        x > inside[0]![0] - edge && x < inside[1]![0] + edge && y > inside[0]![1] - edge && y < inside[2]![1] + edge;
      return within ? level : 30;
    }),
  };
  const mended = await repaired(cut);
  expect([mended.faults.includes('margin'), mended.repair?.repair]).toEqual([true, 'add margin']);
  // Grey on grey: more contrast, or darker corners, or drawn anew; whatever it is, it reads more than before.
  const pale = await repaired(mapped(picture, (level) => 150 + (level * 60) / 255));
  expect(pale.faults).toContain('contrast');
  expect(pale.repair!.after).toBeGreaterThanOrEqual(pale.repair!.before);
});
