import { frameOf } from './matrix';
import type { FinderShape, ModuleShape } from './style';
import { alignmentCentres } from './tables';
import type { Symbol } from './symbol';

/** A number in a path, to a thousandth of a module. */
const n = (value: number): string => String(Math.round(value * 1_000) / 1_000);

/** Distance of a curve's handles from its ends that draws a quarter of a circle (four cubic curves; common practice). */
const ROUND = 0.5523;

/** A rectangle, its corners round by so much each: top left, top right, bottom right, bottom left. */
function rounded(
  x: number,
  y: number,
  width: number,
  height: number,
  corners: [number, number, number, number],
): string {
  const [a, b, c, d] = corners;
  const [right, bottom] = [x + width, y + height];
  const turn = (radius: number, x1: number, y1: number, x2: number, y2: number, toX: number, toY: number) =>
    radius > 0 ? `C${n(x1)} ${n(y1)} ${n(x2)} ${n(y2)} ${n(toX)} ${n(toY)}` : '';
  const inner = (radius: number) => radius * (1 - ROUND);
  return (
    `M${n(x + a)} ${n(y)}H${n(right - b)}` +
    turn(b, right - inner(b), y, right, y + inner(b), right, y + b) +
    `V${n(bottom - c)}` +
    turn(c, right, bottom - inner(c), right - inner(c), bottom, right - c, bottom) +
    `H${n(x + d)}` +
    turn(d, x + inner(d), bottom, x, bottom - inner(d), x, bottom - d) +
    `V${n(y + a)}` +
    turn(a, x, y + inner(a), x + inner(a), y, x + a, y) +
    'Z'
  );
}

const square = (x: number, y: number, side: number, radius: number) =>
  rounded(x, y, side, side, [radius, radius, radius, radius]);

/** A ring is two outlines, of which the inner runs the other way under the even-odd rule. */
const RADII: Record<FinderShape, readonly [outer: number, inner: number, heart: number]> = {
  square: [0, 0, 0],
  soft: [2, 1.2, 0.8],
  round: [3.5, 2.5, 1.5],
};

/** The three finder patterns as one path, to be filled by the even-odd rule. Offsets are those of the quiet zone, in modules. */
export function findersPath(size: number, shape: FinderShape, offset: number): string {
  const [outer, inner, heart] = RADII[shape];
  return [
    [0, 0],
    [size - 7, 0],
    [0, size - 7],
  ]
    .map(([left, top]) => {
      const [x, y] = [left! + offset, top! + offset];
      return square(x, y, 7, outer) + square(x + 1, y + 1, 5, inner) + square(x + 2, y + 2, 3, heart);
    })
    .join('');
}

/** Whether a module belongs to a finder pattern. */
export const inFinder = (size: number, row: number, column: number): boolean =>
  (row < 7 && (column < 7 || column >= size - 7)) || (row >= size - 7 && column < 7);

/** Runs of dark modules of a row as rectangles: whole squares take the fewest bytes so. */
function runs(size: number, drawn: Uint8Array, offset: number): string {
  let found = '';
  for (let row = 0, at = 0; row < size; row += 1)
    for (let column = 0; column < size; column += 1, at += 1) {
      if (drawn[at] !== 1) continue;
      const start = column;
      while (column + 1 < size && drawn[at + 1] === 1) {
        column += 1;
        at += 1;
      }
      found += `M${start + offset} ${row + offset}H${column + 1 + offset}V${row + 1 + offset}H${start + offset}Z`;
    }
  return found;
}

/** Of each module of a version: 1 of a finder pattern, 2 of an alignment pattern, which readers look for as whole squares. */
function patternsOf(version: number): Uint8Array {
  const known = patterns.get(version);
  if (known) return known;
  const { size } = frameOf(version);
  const found = Uint8Array.from({ length: size * size }, (_, at) =>
    inFinder(size, Math.floor(at / size), at % size) ? 1 : 0,
  );
  const centres = alignmentCentres(version);
  const last = centres.at(-1);
  for (const row of centres)
    for (const column of centres) {
      if ((row === 6 && (column === 6 || column === last)) || (row === last && column === 6)) continue;
      for (let at = 0; at < 25; at += 1) found[(row - 2 + Math.floor(at / 5)) * size + column - 2 + (at % 5)] = 2;
    }
  patterns.set(version, found);
  return found;
}
const patterns = new Map<number, Uint8Array>();

/** Four quarters of a circle from its top, clockwise, relative to where they begin: the same for every dot. */
function circle(radius: number): string {
  const [r, k, rest] = [n(radius), n(radius * ROUND), n(radius * (1 - ROUND))];
  return `c${k} 0 ${r} ${rest} ${r} ${r}c0 ${k} -${rest} ${r} -${r} ${r}c-${k} 0 -${r} -${rest} -${r} -${r}c0 -${k} ${rest} -${r} ${r} -${r}z`;
}

const EASE = 0.12;
/** A square with eased corners from the beginning of its upper side, relative. */
function tile(side: number): string {
  const [straight, e, k, rest] = [n(side - 2 * EASE), n(EASE), n(EASE * ROUND), n(EASE * (1 - ROUND))];
  return (
    `h${straight}c${k} 0 ${e} ${rest} ${e} ${e}v${straight}c0 ${k} -${rest} ${e} -${e} ${e}` +
    `h-${straight}c-${k} 0 -${e} -${rest} -${e} -${e}v-${straight}c0 -${k} ${rest} -${e} ${e} -${e}z`
  );
}

/**
 * A module from the middle of its upper side, relative, its corners round by half a module where they are free: bits for top right, bottom right,
 * bottom left, top left.
 */
function soft(free: number): string {
  const [k, rest] = [n(0.5 * ROUND), n(0.5 * (1 - ROUND))];
  return (
    (free & 1 ? `c${k} 0 .5 ${rest} .5 .5` : 'h.5v.5') +
    (free & 2 ? `c0 ${k} -${rest} .5 -.5 .5` : 'v.5h-.5') +
    (free & 4 ? `c-${k} 0 -.5 -${rest} -.5 -.5` : 'h-.5v-.5') +
    (free & 8 ? `c0 -${k} ${rest} -.5 .5 -.5` : 'v-.5h.5') +
    'z'
  );
}
const SOFTS = Array.from({ length: 16 }, (_, free) => soft(free));

/**
 * The dark modules of a symbol outside its finder patterns as one path in modules; `covered` are left out. `fill` is the width of dots and tiles as a
 * share of the module; alignment patterns stay whole squares in any shape.
 */
export function modulesPath(
  { size, version, dark }: Symbol,
  {
    shape,
    fill,
    covered,
    offset,
  }: {
    shape: ModuleShape;
    fill: number;
    /** Null where nothing is. */
    covered: ((row: number, column: number) => boolean) | null;
    offset: number;
  },
): string {
  const pattern = patternsOf(version);
  const drawn = dark.map((module, at) => (pattern[at] === 1 ? 0 : module));
  if (covered)
    for (let at = 0; at < drawn.length; at += 1) if (covered(Math.floor(at / size), at % size)) drawn[at] = 0;
  if (shape === 'squares') return runs(size, drawn, offset);
  let found = runs(
    size,
    drawn.map((module, at) => (pattern[at] === 2 ? module : 0)),
    offset,
  );
  // Each begins at the same place of its module and goes on in the same way.
  const [left, top, tail] =
    shape === 'dots'
      ? [0.5, (1 - fill) / 2, circle(fill / 2)]
      : shape === 'tiles'
        ? [(1 - fill) / 2 + EASE, (1 - fill) / 2, tile(fill)]
        : [0.5, 0, null];
  const columns = Array.from({ length: size }, (_, at) => n(at + offset + left));
  for (let row = 0, at = 0; row < size; row += 1) {
    const y = n(row + offset + top);
    for (let column = 0; column < size; column += 1, at += 1) {
      if (drawn[at] === 0 || pattern[at] === 2) continue;
      found += `M${columns[column]} ${y}${tail ?? SOFTS[freeCorners(drawn, size, at, column)]}`;
    }
  }
  return found;
}

/** Corners of a module that nothing joins, in the bits of {@link soft}. */
function freeCorners(drawn: Uint8Array, size: number, at: number, column: number): number {
  const up = drawn[at - size] !== 1;
  const down = drawn[at + size] !== 1;
  const left = column === 0 || drawn[at - 1] !== 1;
  const right = column + 1 === size || drawn[at + 1] !== 1;
  return (up && right ? 1 : 0) | (down && right ? 2 : 0) | (down && left ? 4 : 0) | (up && left ? 8 : 0);
}
