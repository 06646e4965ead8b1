import {
  AREAS,
  bandOn,
  cellsOf,
  contrast,
  fails,
  FIRST_LOOK,
  FORMS,
  groundsOf,
  hexOf,
  layoutOf,
  LAYOUT_NAMES,
  leastVeil,
  LookSchema,
  luminance,
  mapWith,
  mix,
  nightLook,
  pairsInUse,
  PALETTES,
  paletteFrom,
  plateFor,
  proposalFor,
  readable,
  seen,
  shiftedFor,
  spansOf,
  type Area,
  type Span,
} from './index';
import { HouseStyleSchema, NO_HOUSE, platesFor } from '@/core/house';
import fc from 'fast-check';

const part = fc.integer({ min: 0, max: 255 });
const hex = fc.tuple(part, part, part).map(([r, g, b]) => hexOf([r / 255, g / 255, b / 255]));

test('contrast is that of WCAG 2.2: 21 for black on white, 4.54 for #767676 on white, and 4.48 for #777777, which fails', () => {
  expect(contrast('#000000', '#FFFFFF')).toBeCloseTo(21, 5);
  expect(contrast('#767676', '#FFFFFF')).toBeCloseTo(4.54, 2);
  expect(contrast('#777777', '#FFFFFF')).toBeCloseTo(4.48, 2);
  // WCAG 2.2, technique G18: #1a1a1a-like pairs are ordered by luminance, whichever is in front.
  expect(contrast('#FFFFFF', '#767676')).toBe(contrast('#767676', '#FFFFFF'));
  expect(luminance('#FF0000')).toBeCloseTo(0.2126, 4);
});

test('lightness, chroma and hue are those of OKLab (CSS Color 4, 10.2: its worked values for red and white)', () => {
  const red = seen('#FF0000');
  expect(red.lightness).toBeCloseTo(0.628, 3);
  expect(red.chroma).toBeCloseTo(0.2577, 3);
  expect((red.hue * 180) / Math.PI).toBeCloseTo(29.23, 1);
  expect(seen('#FFFFFF').lightness).toBeCloseTo(1, 3);
});

test('what is proposed passes, whatever was given, and keeps its hue where it can', () => {
  fc.assert(
    fc.property(hex, hex, (ink, ground) => {
      const proposed = readable(ink, [ground], 4.5);
      expect(contrast(proposed, ground)).toBeGreaterThanOrEqual(4.5);
      if (contrast(ink, ground) >= 4.5) expect(proposed).toBe(ink);
    }),
  );
  fc.assert(
    fc.property(hex, hex, (brand, second) => {
      const look = LookSchema.parse({ palette: paletteFrom(brand, second) });
      expect(pairsInUse(look).filter(({ pair }) => fails(pair))).toEqual([]);
    }),
  );
});

test('a look that fails by day has a proposal that passes; every ready palette passes by day and night', () => {
  const pale = LookSchema.parse({ palette: { ...PALETTES.moor, ink: '#C8C8C8', onAct: '#B05030' } });
  expect(pairsInUse(pale).some(({ pair }) => fails(pair))).toBe(true);
  const mended = { ...pale, palette: proposalFor(pale) };
  expect(pairsInUse(mended).filter(({ by, pair }) => by === 'day' && fails(pair))).toEqual([]);
  for (const palette of Object.values(PALETTES))
    expect(pairsInUse(LookSchema.parse({ palette })).filter(({ pair }) => fails(pair))).toEqual([]);
});

test('a brand’s colour stays as it is: inks, an edge and shades for text give way, by day and night; shifting it is the last offer', () => {
  fc.assert(
    fc.property(hex, hex, fc.boolean(), (brand, second, accent) => {
      const lines = accent ? { a: { size: 'normal', heavy: false, tone: 'accent' } } : {};
      const look = LookSchema.parse({ palette: { ...PALETTES.moor, band: brand, act: second }, lines });
      const mended = { ...look, palette: proposalFor(look) };
      expect(mended.palette).toMatchObject({ band: brand, act: second });
      expect(pairsInUse(mended).filter(({ pair }) => fails(pair))).toEqual([]);
      expect(nightLook(mended).palette.act).toBe(second);
      const shifted = shiftedFor(mended);
      // WCAG 2.2, 1.4.11.
      if (shifted) expect(contrast(shifted.act, shifted.sheet)).toBeGreaterThanOrEqual(3);
      else expect(contrast(second, look.palette.sheet)).toBeGreaterThanOrEqual(3);
    }),
  );
});

test('a logo gets a plate exactly where it would vanish, by day and by night (WCAG 2.2, 1.4.11: 3 to 1)', () => {
  const white = ['#FFFFFF', '#F4F4F4'];
  const dark = ['#14222E'];
  // “Trod” sets the logo on its band, which is dark by day and by night; on “Cairn” it stands on the sheet.
  const onSheet = LookSchema.parse({ layout: 'cairn', palette: PALETTES.tarn });
  expect(platesFor(onSheet, white, white)).toEqual({ day: '#14100D', night: null });
  expect(platesFor(onSheet, dark, dark)).toEqual({ day: null, night: '#FFFFFF' });
  fc.assert(
    fc.property(fc.array(hex, { minLength: 1, maxLength: 6 }), hex, hex, (colours, ground, sheet) => {
      const plate = plateFor(colours, [ground], sheet);
      const best = (on: string) => Math.max(...colours.map((each) => contrast(each, on)));
      expect(plate === null).toBe(best(ground) >= 3);
      if (plate) expect(best(plate)).toBeGreaterThanOrEqual(3);
    }),
  );
});

test('by night a name reads on whatever the band shows, a light pattern and a picture included', () => {
  for (const ground of [
    { kind: 'pattern', motif: 'furrows', to: '#F6DC8C' },
    { kind: 'gradient', to: '#FFFFFF', angle: 90 },
    {
      kind: 'picture',
      picture: { hash: 'a'.repeat(64), width: 9, height: 9 },
      veil: 0,
      darkest: '#000000',
      lightest: '#FFFFFF',
    },
  ]) {
    const night = nightLook(LookSchema.parse({ palette: PALETTES.gorse, ground }));
    for (const each of groundsOf(night)) expect(contrast(night.palette.onBand, each)).toBeGreaterThanOrEqual(4.5);
  }
});

test('what nobody has dressed is what an empty look reads as, and an older one that lacks newer parts', () => {
  expect(LookSchema.parse({})).toEqual(FIRST_LOOK);
  expect(HouseStyleSchema.parse({})).toEqual(NO_HOUSE);
  expect(LookSchema.safeParse({ layout: 'nobody knows' }).success).toBe(false);
});

test('the least veil over a picture is the least: a twentieth less, and a pixel does not read', () => {
  const pixels = { darkest: '#101010', lightest: '#E8E8E8' };
  const { band, onBand } = PALETTES.moor;
  const veil = leastVeil(PALETTES.moor, pixels);
  const reads = (share: number) =>
    Object.values(pixels).every((pixel) => contrast(onBand, mix(pixel, band, share)) >= 4.5);
  expect(veil).toBeGreaterThan(0);
  expect(reads(veil)).toBe(true);
  expect(reads(veil - 0.05)).toBe(false);
});

test('layouts differ pairwise in their order of areas and in every map of a form', () => {
  expect(LAYOUT_NAMES.length).toBeGreaterThanOrEqual(8);
  const said = LAYOUT_NAMES.map((name) => layoutOf(name));
  expect(new Set(said.map(({ order }) => order.join())).size).toBe(said.length);
  for (const form of ['narrow', 'wide', 'lying', 'standing'] as const)
    expect(new Set(said.map(({ map }) => map[form].rows.join())).size).toBe(said.length);
  for (const { order, map } of said) {
    expect([...order].sort()).toEqual([...AREAS].sort());
    // A page leaves nothing out, on whichever screen.
    for (const form of ['narrow', 'wide'] as const)
      expect([...spansOf(cellsOf(map[form])).keys()].sort()).toEqual([...AREAS].sort());
  }
});

test('whatever a card lacks, its areas stay rectangles without gaps, in place of each other, and the band stays one', () => {
  const broken: string[] = [];
  let tried = 0;
  for (const name of LAYOUT_NAMES)
    for (const form of FORMS) {
      const { map, band } = layoutOf(name);
      const whole = cellsOf(map[form]);
      const on = [...spansOf(whole).keys()];
      // Every choice of present areas; a name and its buttons are always there.
      for (let bits = 1; bits < 1 << on.length; bits += 1) {
        const present = new Set(on.filter((area, at) => bits & (1 << at) || area === 'name' || area === 'acts'));
        const { cells } = mapWith(whole, present);
        const spans = spansOf({ cells });
        const told = `${name} ${form} ${[...present].join()}`;
        tried += 1;
        if (spans.size !== present.size) broken.push(told);
        for (const [area, box] of spans) if (!within(cells, box, (each) => each === area)) broken.push(told);
        const painted = new Set(bandOn({ cells }, band).flatMap((box) => areasIn(cells, box)));
        const banded = [...present].filter((area) => (band as readonly Area[]).includes(area));
        if ([...painted].sort().join() !== banded.sort().join()) broken.push(`${told}: band`);
      }
    }
  expect(broken).toEqual([]);
  expect(tried).toBeGreaterThan(10_000);
});

const areasIn = (cells: (Area | null)[][], { left, right, top, bottom }: Span): Area[] =>
  cells.slice(top, bottom + 1).flatMap((row) => row.slice(left, right + 1).flatMap((area) => area ?? []));

function within(
  cells: (Area | null)[][],
  { left, right, top, bottom }: Span,
  fits: (area: Area | null) => boolean,
): boolean {
  for (let y = top; y <= bottom; y += 1) for (let x = left; x <= right; x += 1) if (!fits(cells[y]![x]!)) return false;
  return true;
}
