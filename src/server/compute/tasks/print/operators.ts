/** Operators of PDF content as text (ISO 32000-1, annex A): what draws codes, words and colours alike. Lengths in the user space that is set. */

/** A number without needless digits. */
export const n = (value: number): string => String(Math.round(value * 10_000) / 10_000);

export const op = (name: string, ...operands: (number | string)[]): string =>
  `${[...operands.map((each) => (typeof each === 'number' ? n(each) : each)), name].join(' ')}\n`;

/** The operators of a path of M, H, V, L, C, Q and Z, those in small letters relative to where the last one ended (SVG 2, 9.3; ISO 32000-1, 8.5.2). */
export function pathOperators(d: string): string {
  let made = '';
  let [x, y, startX, startY] = [0, 0, 0, 0];
  for (const [, command, rest] of d.matchAll(/([a-z])([^a-z]*)/gi)) {
    const kind = command!.toUpperCase();
    const [dx, dy] = kind === command ? [0, 0] : [x, y];
    const values = (rest!.match(/-?(?:\d+\.?\d*|\.\d+)/g) ?? []).map(Number);
    const point = (at: number): [number, number] => [values[at]! + dx, values[at + 1]! + dy];
    if (kind === 'Z') {
      made += op('h');
      [x, y] = [startX, startY];
    } else if (kind === 'C') {
      const [one, other, to] = [point(0), point(2), point(4)];
      made += op('c', ...one, ...other, ...to);
      [x, y] = to;
    } else if (kind === 'Q') {
      // A curve of one handle as one of two.
      const [[u, v], [toX, toY]] = [point(0), point(2)];
      const third = (from: number, handle: number) => from + ((handle - from) * 2) / 3;
      made += op('c', third(x, u), third(y, v), third(toX, u), third(toY, v), toX, toY);
      [x, y] = [toX, toY];
    } else {
      [x, y] = kind === 'H' ? [values[0]! + dx, y] : kind === 'V' ? [x, values[0]! + dy] : point(0);
      if (kind === 'M') [startX, startY] = [x, y];
      made += op(kind === 'M' ? 'm' : 'l', x, y);
    }
  }
  return made;
}

export const partsOf = (hex: string): [number, number, number] => {
  const value = Number.parseInt(hex.slice(1), 16);
  return [(value >> 16) / 255, ((value >> 8) & 255) / 255, (value & 255) / 255];
};

/** Black as the black ink alone, so that edges stay sharp; other colours as red, green and blue. */
export const fillOf = (hex: string): string => (hex === '#000000' ? op('k', 0, 0, 0, 1) : op('rg', ...partsOf(hex)));

export type Matrix = readonly [number, number, number, number, number, number];

/** One matrix after another: a point goes through `inner` first (ISO 32000-1, 8.3.4). */
export const within = (inner: Matrix, outer: Matrix): Matrix => {
  const [a, b, c, d, e, f] = inner;
  const [A, B, C, D, E, F] = outer;
  return [a * A + b * C, a * B + b * D, c * A + d * C, c * B + d * D, e * A + f * C + E, e * B + f * D + F];
};
