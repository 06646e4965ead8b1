import fc from 'fast-check';
import {
  behind,
  codeMmOf,
  codeOn,
  FIRST_PIECE,
  PAPERS,
  PAPER_NAMES,
  PieceSchema,
  PRINT_SIZES,
  FIRST_LABELS,
  placesOn,
  planSheet,
  type Labels,
  roomForCode,
  roomsOf,
  SIZE_NAMES,
  sizeOf,
  trimOf,
  type Piece,
  type SheetChoice,
} from './index';

const anyPiece: fc.Arbitrary<Piece> = fc.record({
  size: fc.constantFrom(...SIZE_NAMES),
  form: fc.constantFrom('lying', 'standing'),
  back: fc.constantFrom('code', 'lines', 'none'),
  sentence: fc.string({ maxLength: 80 }),
  codeMm: fc.option(fc.double({ min: 5, max: 300, noNaN: true })),
  distanceMm: fc.integer({ min: 250, max: 5_000 }),
  marks: fc.boolean(),
  ...{ ground: fc.constant('look' as const), placed: fc.constant([]), enlarged: fc.constant(false) },
  sheet: fc.constant(null),
  own: fc.record({ width: fc.integer({ min: 40, max: 200 }), height: fc.integer({ min: 25, max: 150 }) }),
});
const anySheet: fc.Arbitrary<SheetChoice> = fc.record({
  paper: fc.constantFrom(...PAPER_NAMES),
  turn: fc.constantFrom('long', 'short'),
  across: fc.integer({ min: -100, max: 100 }),
  down: fc.integer({ min: -100, max: 100 }),
  labels: fc.constant(null),
});

test('a code is within its piece, whatever is asked for, its margins kept; a sign’s is a tenth of its distance where there is room (ten to one, common practice)', () => {
  fc.assert(
    fc.property(anyPiece, (piece) => {
      const { width, height } = trimOf(piece);
      const wide = codeMmOf(piece);
      const { margin } = roomsOf(piece.size);
      const { stock, round } = sizeOf(piece.size);
      expect(wide).toBeLessThanOrEqual(roomForCode(piece));
      if (round) expect(wide * Math.SQRT2).toBeLessThanOrEqual(width + 1e-9);
      else expect(wide + 2 * margin).toBeLessThanOrEqual(Math.min(width, height) + 1e-9);
      if (stock === 'sign' && piece.distanceMm / 10 < roomForCode(piece))
        expect(wide).toBeCloseTo(piece.distanceMm / 10, 9);
      // ISO/IEC 18004: a symbol of 25 modules has four light ones on each side.
      expect(codeOn(piece, 25).moduleMm).toBeCloseTo(wide / 33, 9);
    }),
  );
});

test('measures are those of their standards: ID-1 85.60 × 53.98 mm (ISO/IEC 7810), A sizes halve (ISO 216), an inch is 25.4 mm', () => {
  expect([PRINT_SIZES.badge.width, PRINT_SIZES.badge.height]).toEqual([85.6, 53.98]);
  expect(PRINT_SIZES['3.5x2in'].width).toBeCloseTo(3.5 * 25.4, 9);
  expect(PRINT_SIZES['3.5x2in'].height).toBeCloseTo(2 * 25.4, 9);
  for (const [large, small] of [
    ['a3', 'a4'],
    ['a4', 'a5'],
    ['a5', 'a6'],
  ] as const) {
    expect(PRINT_SIZES[large].height).toBe(PRINT_SIZES[small].width);
    // Half of a millimetre that is left over is dropped.
    expect(Math.floor(PRINT_SIZES[large].width / 2)).toBe(PRINT_SIZES[small].height);
  }
  for (const name of SIZE_NAMES) expect(sizeOf(name).source).not.toBe('');
});

test('pieces on a sheet lie apart, within what printers reach, and in its middle', () => {
  fc.assert(
    fc.property(anyPiece, fc.constantFrom(...PAPER_NAMES), (piece, paper) => {
      const { width, height } = trimOf(piece);
      const places = placesOn(paper, { width, height });
      const sheet = PAPERS[paper];
      for (const { x, y } of places) {
        expect(Math.min(x, y, sheet.width - x - width, sheet.height - y - height)).toBeGreaterThanOrEqual(8 - 1e-9);
        for (const other of places)
          if (other.x !== x || other.y !== y)
            expect(Math.abs(other.x - x) >= width + 4 - 1e-9 || Math.abs(other.y - y) >= height + 4 - 1e-9).toBe(true);
      }
      const [left, right] = [Math.min(...places.map(({ x }) => x)), Math.max(...places.map(({ x }) => x + width))];
      if (places.length > 0) expect(left).toBeCloseTo(sheet.width - right, 6);
    }),
  );
  // By hand: two columns of 85 mm and four rows of 55 mm have room on A4 within 8 mm edges, with 4 mm between.
  expect(placesOn('a4', { width: 85, height: 55 })).toHaveLength(8);
  expect(placesOn('a4', { width: 210, height: 148 })).toEqual([]);
});

test('labels lie where the pack’s measures say; what lies over each other or beyond the paper has no place and says so', () => {
  const label = { width: 70, height: 37 };
  // 3 by 8 of 70 by 37 mm on A4, edge to edge (common practice, no published source): 210 wide, 8 by 37 are 296.
  const { places, bleed, cut, fault } = planSheet({ paper: 'a4', labels: FIRST_LABELS }, label);
  expect([places.length, bleed, cut, fault]).toEqual([24, 0, false, null]);
  expect(places.at(-1)).toEqual({ x: 140, y: expect.closeTo(0.5 + 7 * 37, 9) });
  const wrong = (labels: Partial<Labels>, paper: 'a4' | 'letter' = 'a4') =>
    planSheet({ paper, labels: { ...FIRST_LABELS, ...labels } }, label);
  expect(wrong({ stepAcross: 690 })).toMatchObject({ places: [], fault: 'overlap' });
  expect(wrong({ rows: 9 })).toMatchObject({ places: [], fault: 'beyond' });
  expect(wrong({}, 'letter')).toMatchObject({ fault: 'beyond' });
  fc.assert(
    fc.property(
      fc.record({
        ...{ columns: fc.integer({ min: 1, max: 20 }), rows: fc.integer({ min: 1, max: 40 }) },
        ...{ left: fc.integer({ min: 0, max: 400 }), top: fc.integer({ min: 0, max: 400 }) },
        ...{ stepAcross: fc.integer({ min: 50, max: 1_500 }), stepDown: fc.integer({ min: 50, max: 1_500 }) },
      }),
      fc.record({ width: fc.integer({ min: 15, max: 100 }), height: fc.integer({ min: 15, max: 100 }) }),
      (labels, size) => {
        const plan = planSheet({ paper: 'a4', labels }, size);
        expect(plan.places.length).toBe(plan.fault ? 0 : labels.columns * labels.rows);
        for (const { x, y } of plan.places) {
          expect([x + size.width <= 210.1 + 1e-9, y + size.height <= 297.1 + 1e-9]).toEqual([true, true]);
          for (const other of plan.places)
            if (other.x !== x || other.y !== y)
              expect(
                Math.abs(other.x - x) >= size.width + 2 * plan.bleed - 1e-6 ||
                  Math.abs(other.y - y) >= size.height + 2 * plan.bleed - 1e-6,
              ).toBe(true);
        }
      },
    ),
    { numRuns: 60 },
  );
});

test('a back lies behind its front once the sheet is turned over either edge; what a printer shifts is added', () => {
  fc.assert(
    fc.property(anySheet, fc.integer({ min: 8, max: 100 }), fc.integer({ min: 8, max: 200 }), (choice, x, y) => {
      const size = { width: 85, height: 55 };
      const { width, height } = PAPERS[choice.paper];
      const back = behind({ x, y }, size, choice);
      const [shiftX, shiftY] = [choice.across / 10, choice.down / 10];
      // Held against the light, a place of the back is seen from the front mirrored at the edge that it was turned over.
      const seen =
        choice.turn === 'long'
          ? { x: width - (back.x - shiftX) - size.width, y: back.y - shiftY }
          : { x: back.x - shiftX, y: height - (back.y - shiftY) - size.height };
      expect(seen.x).toBeCloseTo(x, 9);
      expect(seen.y).toBeCloseTo(y, 9);
    }),
  );
});

test('what is no piece is refused: sizes, widths and distances that no paper has', () => {
  for (const wrong of [
    { size: 'a0' },
    { codeMm: 4 },
    { codeMm: 301 },
    { distanceMm: 100 },
    { sentence: 'x'.repeat(81) },
    { form: 'tilted' },
    { sheet: { paper: 'a4', turn: 'long', across: 101, down: 0 } },
  ])
    expect([wrong, PieceSchema.safeParse({ ...FIRST_PIECE, ...wrong }).success]).toEqual([wrong, false]);
  expect(PieceSchema.parse(FIRST_PIECE)).toEqual(FIRST_PIECE);
});
