import type { Grey } from './grey';

/** Luminance steps of a block's 64 frequencies at quality 50 (ISO/IEC 10918-1, table K.1). */
const STEPS = [
  ...[16, 11, 10, 16, 24, 40, 51, 61, 12, 12, 14, 19, 26, 58, 60, 55],
  ...[14, 13, 16, 24, 40, 57, 69, 56, 14, 17, 22, 29, 51, 87, 80, 62],
  ...[18, 22, 37, 56, 68, 109, 103, 77, 24, 35, 55, 64, 81, 104, 113, 92],
  ...[49, 64, 78, 87, 103, 121, 120, 101, 72, 92, 95, 98, 112, 100, 103, 99],
];

/** The cosine transform of eight values, as a matrix (ISO/IEC 10918-1, A.3.3). */
const COSINES = Float32Array.from({ length: 64 }, (_, at) => {
  const [frequency, place] = [at >> 3, at & 7];
  return (frequency === 0 ? Math.SQRT1_2 : 1) * 0.5 * Math.cos(((2 * place + 1) * frequency * Math.PI) / 16);
});

/** `matrix` times `block`, or its transpose times it, along columns and then along rows. */
function transform(block: Float32Array, forth: boolean): void {
  const half = new Float32Array(64);
  const factor = (one: number, other: number) => (forth ? COSINES[one * 8 + other]! : COSINES[other * 8 + one]!);
  for (let row = 0; row < 8; row += 1)
    for (let column = 0; column < 8; column += 1) {
      let sum = 0;
      for (let at = 0; at < 8; at += 1) sum += factor(row, at) * block[at * 8 + column]!;
      half[row * 8 + column] = sum;
    }
  for (let row = 0; row < 8; row += 1)
    for (let column = 0; column < 8; column += 1) {
      let sum = 0;
      for (let at = 0; at < 8; at += 1) sum += factor(column, at) * half[row * 8 + at]!;
      block[row * 8 + column] = sum;
    }
}

/** What JPEG leaves of a grey picture at a quality of 1 to 100, where quality scales the steps as the usual encoder does (from memory). */
export function throughJpeg({ width, height, data }: Grey, quality: number): Grey {
  const scale = quality < 50 ? 50 / quality : 2 - quality / 50;
  const steps = STEPS.map((step) => Math.max(1, Math.round(step * scale)));
  const made = new Uint8ClampedArray(data.length);
  const block = new Float32Array(64);
  for (let top = 0; top < height; top += 8)
    for (let left = 0; left < width; left += 8) {
      for (let at = 0; at < 64; at += 1) {
        const y = Math.min(height - 1, top + (at >> 3));
        const x = Math.min(width - 1, left + (at & 7));
        block[at] = data[y * width + x]! - 128;
      }
      transform(block, true);
      for (let at = 0; at < 64; at += 1) block[at] = Math.round(block[at]! / steps[at]!) * steps[at]!;
      transform(block, false);
      for (let at = 0; at < 64; at += 1) {
        const [y, x] = [top + (at >> 3), left + (at & 7)];
        if (y < height && x < width) made[y * width + x] = block[at]! + 128;
      }
    }
  return { width, height, data: new Uint8Array(made.buffer) };
}
