import { contrast, hexOf } from '@/core/look';
import { locate, READ, shrunk, type Grey } from '@/core/proof/scan';

type Place = { left: number; top: number; width: number; height: number };

/** A code that was found in a picture: the symbol without its margin, in pixels, and how many readers read it. */
export type SeenCode = { text: string; x: number; y: number; width: number; modules: number; readers: number };

/** A box of fewer pixels says nothing about a text: a full stop alone. */
const FEWEST = 40;

/** The contrast within a box: of its darkest parts with its lightest, as painted; null of one that is too small. */
export function contrastIn(grey: Grey, { left, top, width, height }: Place): number | null {
  const [fromX, toX] = [Math.max(0, Math.round(left)), Math.min(grey.width, Math.round(left + width))];
  const [fromY, toY] = [Math.max(0, Math.round(top)), Math.min(grey.height, Math.round(top + height))];
  const levels = new Uint32Array(256);
  for (let row = fromY; row < toY; row += 1)
    for (let column = fromX; column < toX; column += 1) levels[grey.data[row * grey.width + column]!]! += 1;
  const count = Math.max(0, toX - fromX) * Math.max(0, toY - fromY);
  if (count < FEWEST) return null;
  const at = (share: number) => {
    let level = 0;
    for (let seen = levels[0]!; seen <= count * share && level < 255; seen += levels[level]!) level += 1;
    return hexOf([level / 255, level / 255, level / 255]);
  };
  return contrast(at(0.02), at(0.98));
}

/** How codes are looked for: how many at most in each place, smaller by `share` as a camera further away has them; where they stand as exactly as a reader tells it, or `exact`. */
type Looking = { most: number; share: number; exact: boolean };

/** The codes within places of a picture, each given to two readers. */
export async function codesIn(grey: Grey, places: Place[], { most, share, exact }: Looking): Promise<SeenCode[]> {
  const codes: SeenCode[] = [];
  for (const place of places) {
    const { picture, left, top } = cut(grey, place);
    for (const { text, corners, size } of await locate(picture, most, !exact)) {
      const [xs, ys] = [corners.map(([x]) => x), corners.map(([, y]) => y)];
      const [x, y] = [Math.min(...xs), Math.min(...ys)];
      const side = Math.max(...xs) - x;
      const around = Math.round((side / size) * 5);
      const whole = side + 2 * around;
      const seen = cut(picture, { left: x - around, top: y - around, width: whole, height: whole }).picture;
      const [across, down] = [seen.width, seen.height].map((each) => Math.max(1, Math.round(each * share)));
      const small = shrunk(seen, across!, down!);
      const read = await Promise.all([READ.zxing(small), READ.qr(small)]);
      const readers = read.filter((each) => each === text).length;
      codes.push({ text, modules: size, width: side, x: x + left, y: y + top, readers });
    }
  }
  return codes;
}
/** A part of a picture, and where in it that begins. */
function cut({ width, height, data }: Grey, box: Place) {
  const [left, top] = [Math.max(0, Math.floor(box.left)), Math.max(0, Math.floor(box.top))];
  const across = Math.max(1, Math.min(width - left, Math.ceil(box.width)));
  const down = Math.max(1, Math.min(height - top, Math.ceil(box.height)));
  const made = new Uint8Array(across * down);
  for (let row = 0; row < down; row += 1) {
    const from = (top + row) * width + left;
    made.set(data.subarray(from, from + across), row * across);
  }
  return { picture: { width: across, height: down, data: made }, left, top };
}
