import fc from 'fast-check';
import { clampCrop, squareOf, tooSmallFor, wholeCrop } from './crop';

const size = fc.integer({ min: 1, max: 8_000 });
const share = fc.double({ min: -3, max: 4, noNaN: true });
const crop = fc.record({
  from: fc.constant('a'.repeat(64)),
  x: share,
  y: share,
  side: fc.double({ min: 0.01, max: 3, noNaN: true }),
  turn: fc.double({ min: -180, max: 180, noNaN: true }),
  focus: fc.constant({ x: 0.5, y: 0.4 }),
});

/** Corners of the square in the picture's own axes, from its middle: the square stands upright in the turned picture (a rotation by the angle). */
function corners({ turn, ...of }: Parameters<typeof clampCrop>[0], width: number, height: number): [number, number][] {
  const { left, top, side } = squareOf({ turn, ...of }, width, height);
  const angle = (-turn * Math.PI) / 180;
  return [
    [left, top],
    [left + side, top],
    [left, top + side],
    [left + side, top + side],
  ].map(([x, y]) => [x! * Math.cos(angle) - y! * Math.sin(angle), x! * Math.sin(angle) + y! * Math.cos(angle)]);
}

test('wherever somebody drags it, however it is turned, no corner of a crop lies outside of the picture', () => {
  fc.assert(
    fc.property(crop, size, size, (wanted, width, height) => {
      const kept = clampCrop(wanted, width, height);
      const slack = 1e-6 * Math.max(width, height);
      for (const [x, y] of corners(kept, width, height)) {
        expect(Math.abs(x)).toBeLessThanOrEqual(width / 2 + slack);
        expect(Math.abs(y)).toBeLessThanOrEqual(height / 2 + slack);
      }
      expect(kept.side).toBeLessThanOrEqual(wanted.side);
      // What fits already stays as it is.
      const again = clampCrop(kept, width, height);
      expect([again.x, again.y, again.side].map((each) => each.toFixed(6))).toEqual(
        [kept.x, kept.y, kept.side].map((each) => each.toFixed(6)),
      );
    }),
    { numRuns: 500 },
  );
});

test('at first the largest square is taken, and of an upright picture one a little above the middle, where a face is', () => {
  fc.assert(
    fc.property(size, size, (width, height) => {
      const first = wholeCrop('a'.repeat(64), width, height);
      const { left, top, side } = squareOf(first, width, height);
      expect(side).toBeCloseTo(Math.min(width, height), 6);
      expect(left + side / 2).toBeCloseTo(0, 6);
      expect(top + side / 2).toBeLessThanOrEqual(1e-6);
    }),
  );
  expect([tooSmallFor(400), tooSmallFor(336), tooSmallFor(180), tooSmallFor(1)]).toEqual([
    [],
    ['print'],
    ['page', 'print'],
    ['page', 'signature', 'print'],
  ]);
});
