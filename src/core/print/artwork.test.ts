import fc from 'fast-check';
import {
  BLEED_MM,
  firstPlaced,
  inSize,
  lyingOn,
  PlacedSchema,
  PRINT_SIZES,
  roomsOf,
  SIZE_NAMES,
  sizeFor,
  snap,
  trimOf,
  FIRST_PIECE,
  type Artwork,
} from './index';

const designed = (more: Partial<Artwork>): Artwork => ({
  ...{ kind: 'pdf', width: 91, height: 61, trim: null, text: true, removed: [] },
  ...more,
});
const CARD = { width: 85, height: 55 };

test('a document lies with its trim on the trim, wherever its page has that; without a TrimBox even bleed tells it', () => {
  const told = designed({ width: 120, height: 90, trim: { x: 10, y: 20, ...CARD } });
  expect(lyingOn(told, CARD, false)).toEqual({
    box: { x: -10, y: -20, width: 120, height: 90 },
    made: CARD,
    bleedMm: 10,
    right: true,
  });
  expect(lyingOn(designed({}), CARD, false)).toMatchObject({ box: { x: -3, y: -3 }, bleedMm: 3, right: true });
  // As large as the size: nothing beyond the cut.
  expect(lyingOn(designed(CARD), CARD, false)).toMatchObject({ box: { x: 0, y: 0 }, bleedMm: 0, right: true });
  // Uneven around it, it is another size.
  expect(lyingOn(designed({ height: 75 }), CARD, false)).toMatchObject({
    made: { width: 91, height: 75 },
    right: false,
  });
});

test('whatever is enlarged covers the bleed on each side, in its own proportions', () => {
  const size = fc.record({
    width: fc.double({ min: 20, max: 300, noNaN: true }),
    height: fc.double({ min: 20, max: 300, noNaN: true }),
  });
  fc.assert(
    fc.property(size, size, fc.constantFrom('pdf' as const, 'picture' as const), (own, wanted, kind) => {
      const { box, bleedMm } = lyingOn(designed({ kind, ...own }), wanted, true);
      expect(box.width / box.height).toBeCloseTo(own.width / own.height, 6);
      if (bleedMm < BLEED_MM) return;
      expect(Math.max(box.x, box.y)).toBeLessThanOrEqual(-BLEED_MM + 1e-6);
      expect(box.x + box.width).toBeGreaterThanOrEqual(wanted.width + BLEED_MM - 1e-6);
      expect(box.y + box.height).toBeGreaterThanOrEqual(wanted.height + BLEED_MM - 1e-6);
    }),
  );
});

test('a picture is taken by its proportions, with bleed or without, whatever its pixels', () => {
  const pixels = (width: number, height: number) => lyingOn(designed({ kind: 'picture', width, height }), CARD, false);
  expect(pixels(910, 610)).toMatchObject({ right: true, bleedMm: 3 });
  expect(pixels(1_700, 1_100)).toMatchObject({ right: true, bleedMm: 0 });
  expect(pixels(600, 600)).toMatchObject({ right: false, made: { width: 85, height: 85 } });
});

test('the size that a design is made for is found, lying and standing; of a picture nobody knows', () => {
  for (const size of SIZE_NAMES.filter((name) => !name.endsWith('-own'))) {
    const { width, height } = PRINT_SIZES[size];
    const found = sizeFor(designed({ width: height + 6, height: width + 6 }))!;
    const { width: across, height: down } = trimOf({ ...found, own: CARD });
    // Sizes within a millimetre of each other are one to a cutter.
    expect([size, Math.abs(across - height) <= 1, Math.abs(down - width) <= 1]).toEqual([size, true, true]);
  }
  expect(sizeFor(designed({ width: 123, height: 45 }))).toBeNull();
  expect(sizeFor(designed({ kind: 'picture' }))).toBeNull();
});

test('the code begins within the safe area of every size, on the back where there is one', () => {
  for (const size of SIZE_NAMES)
    for (const back of [null, designed({})]) {
      const trim = trimOf({ ...FIRST_PIECE, size });
      const { margin } = roomsOf(size);
      const [code, ...more] = firstPlaced({ front: designed({}), back }, trim, margin);
      expect(more).toEqual([]);
      expect(PlacedSchema.safeParse(code).success).toBe(true);
      if (code?.kind !== 'code') throw new Error('a code is placed first');
      expect([size, code.side]).toEqual([size, back ? 'back' : 'front']);
      expect([code.x >= margin - 0.01, code.y >= margin - 0.01]).toEqual([true, true]);
      expect(code.x + code.widthMm).toBeLessThanOrEqual(trim.width - margin + 0.01);
      expect(code.y + code.widthMm).toBeLessThanOrEqual(trim.height - margin + 0.01);
    }
});

test('what is moved goes onto what is near, and never out of the trim; far from everything it stays where it is put', () => {
  const box = { x: 20.3, y: 31.4, width: 25, height: 25 };
  expect(snap({ ...box, x: 4.9 }, CARD, 4, [])).toMatchObject({ x: 4, across: 4 });
  expect(snap({ ...box, x: 29.2 }, CARD, 4, [])).toMatchObject({ x: 30, across: 42.5 });
  expect(snap({ ...box, y: 26.3 }, CARD, 4, [])).toMatchObject({ y: 26, down: 51 });
  expect(snap(box, CARD, 4, [])).toMatchObject({ x: 20.3, across: null });
  // Onto another's edge.
  expect(snap({ ...box, x: 21 }, CARD, 4, [{ x: 21.7, y: 4, width: 40, height: 5 }])).toMatchObject({ x: 21.7 });
  fc.assert(
    fc.property(
      fc.double({ min: -99, max: 199, noNaN: true }),
      fc.double({ min: -99, max: 199, noNaN: true }),
      (x, y) => {
        const put = snap({ ...box, x, y }, CARD, 4, []);
        expect([put.x >= 0, put.x <= 60, put.y >= 0, put.y <= 30]).toEqual([true, true, true, true]);
      },
    ),
  );
});

test('a size by its measures begins as large as what it was before, where that is of its kind', () => {
  expect(inSize({ ...FIRST_PIECE, size: '91x55' }, 'card-own').own).toEqual({ width: 91, height: 55 });
  expect(inSize({ ...FIRST_PIECE, size: 'a3' }, 'card-own').own).toEqual({ width: 85, height: 55 });
  expect(inSize({ ...FIRST_PIECE, size: 'label-63x38' }, 'label-own').own).toEqual({ width: 63.5, height: 38.1 });
  expect(trimOf(inSize({ ...FIRST_PIECE, size: 'a6', form: 'standing' }, '85x55'))).toEqual({ width: 55, height: 85 });
});
