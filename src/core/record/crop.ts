import type { Crop } from './record';

/**
 * Geometry of a photo's crop. The picture is turned about its middle; the square's centre is given from there in shares of the
 * picture's own width and height (0.5 is the middle), its side as a share of the shorter one. All lengths in pixels.
 */

/** The square from the middle of the turned picture: left and top edge (negative: left of, above it) and side. */
export function squareOf(crop: Crop, width: number, height: number): { left: number; top: number; side: number } {
  const side = crop.side * Math.min(width, height);
  return { left: (crop.x - 0.5) * width - side / 2, top: (crop.y - 0.5) * height - side / 2, side };
}

/** The crop moved and, if it must, made smaller, so that no corner lies outside of the turned picture. */
export function clampCrop(crop: Crop, width: number, height: number): Crop {
  const angle = (crop.turn * Math.PI) / 180;
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  const spread = Math.abs(cos) + Math.abs(sin);
  const shorter = Math.min(width, height);
  const side = Math.min(crop.side, 1 / spread);
  // Half of the square's extent along the picture's own axes, and how far its centre may lie from the middle.
  const half = (side * shorter * spread) / 2;
  const limit = (value: number, most: number) => Math.max(-most, Math.min(most, value));
  const [dx, dy] = [(crop.x - 0.5) * width, (crop.y - 0.5) * height];
  const u = limit(dx * cos + dy * sin, Math.max(0, width / 2 - half));
  const v = limit(-dx * sin + dy * cos, Math.max(0, height / 2 - half));
  return {
    ...crop,
    side,
    x: 0.5 + (u * cos - v * sin) / width,
    y: 0.5 + (u * sin + v * cos) / height,
  };
}

/** The largest square in the middle of a picture, a little above it where it is upright: that is where a face is. */
export const wholeCrop = (from: string, width: number, height: number): Crop =>
  clampCrop(
    { from, x: 0.5, y: height > width ? 0.4 : 0.5, side: 1, turn: 0, focus: { x: 0.5, y: 0.4 } },
    width,
    height,
  );

/** The largest square at the top of an upright picture, in the middle of a broad one: so that no head is cut off. */
export const topCrop = (from: string, width: number, height: number): Crop =>
  clampCrop({ from, x: 0.5, y: height > width ? 0 : 0.5, side: 1, turn: 0, focus: { x: 0.5, y: 0.4 } }, width, height);

/**
 * Pixels a side that a photo needs where it is shown: on the page 112 CSS pixels at three device pixels each, in a signature
 * 90 at two, in print 30 mm at 300 dpi (common practice, no published source).
 */
export const PHOTO_NEEDS = { page: 336, signature: 180, print: 354 } as const;
export type PhotoNeed = keyof typeof PHOTO_NEEDS;

/** Where a square of this many pixels is too coarse. */
export const tooSmallFor = (side: number): PhotoNeed[] =>
  (Object.keys(PHOTO_NEEDS) as PhotoNeed[]).filter((need) => side < PHOTO_NEEDS[need]);
