/**
 * What a phone's camera sees while it looks for codes: a picture 1,080 pixels wide over about 65 degrees (from memory; phones have more and take
 * less for speed). Pixels of what lies a millimetre across at a distance of a millimetre.
 */
const PIXELS = 1_080 / (2 * Math.tan((32.5 * Math.PI) / 180));

/** Nearer than that few phones focus, in millimetres (from memory). */
const NEAREST_MM = 120;
/** Modules finer than that run together in print and on rough paper, in millimetres (from memory). */
export const FINEST_MM = 0.25;
/** Larger versions are not read by each main reader in the quick proof, however they are printed (measured on plain codes of versions 1 to 40). */
export const FINEST_VERSION = 32;
/** Width of a code to the distance that it is read from (common practice, no published source). */
export const TEN_TO_ONE = 10;

/**
 * How far a code of a printed width (margin in) is read from, in millimetres: as the camera sees it, and no further than ten times its width. `side` is its
 * width in modules (`sideOf`).
 */
export function distanceMm(widthMm: number, side: number, pixels: number): number {
  const moduleMm = widthMm / side;
  return Math.min(widthMm * TEN_TO_ONE, (moduleMm * PIXELS) / pixels);
}

/** Pixels of a camera's picture that a millimetre has at a distance in millimetres. */
export const pixelsPerMmFrom = (distance: number): number => PIXELS / distance;

/** The smallest printed width, margin in, that still reads from as near as phones focus and that print can hold, in whole millimetres. */
export function smallestMm(side: number, pixels: number): number {
  return Math.ceil(Math.max(FINEST_MM, (pixels * NEAREST_MM) / PIXELS) * side);
}

/** The printed width that is read from a distance, both in millimetres, the width rounded up. */
export function widthForMm(distance: number, side: number, pixels: number): number {
  return Math.ceil(Math.max(distance / TEN_TO_ONE, (distance * pixels * side) / PIXELS, smallestMm(side, pixels)));
}
