import { levelAt } from './grey';
import type { Base } from './trials';

/** What a picture of a code measures, whatever readers make of it. */
export type Measures = {
  /**
   * Grey levels between light and dark modules where they stand least apart: of the data a tenth of each kind aside, and of the finder
   * patterns; below 0 where they overlap.
   */
  contrast: number;
  /** Whether dark modules stand on a light ground. */
  darkOnLight: boolean;
  /** Modules of the margin that are as light as the ground, on the side where there are fewest; 4 are wanted (ISO/IEC 18004). */
  margin: number;
  /** Modules of the finder patterns that are of the wrong kind, of 147; of patterns that are drawn round, corners aside. */
  finderFaults: number;
  /** Modules that a reader would take for the other kind, row by row; 1 where so. */
  wrong: Uint8Array;
};

/** The mean level of the middle of a module. */
function moduleLevel({ picture, perModule }: Base, column: number, row: number, margin: number): number {
  let sum = 0;
  for (const down of [0.3, 0.5, 0.7])
    for (const along of [0.3, 0.5, 0.7])
      sum += levelAt(
        picture,
        (column + margin + along) * perModule - 0.5,
        (row + margin + down) * perModule - 0.5,
        OUTSIDE,
      );
  return sum / 9;
}

/** What lies beyond a picture's edge is not known; it is taken to be dark. */
export const OUTSIDE = 0;

const sorted = (levels: number[]) => [...levels].sort((a, b) => a - b);
const at = (levels: number[], share: number) =>
  levels[Math.min(levels.length - 1, Math.floor(levels.length * share))] ?? 0;

/** Whether a module of a finder pattern is dark, by its distance from the pattern's middle (ISO/IEC 18004, 6.3.3). */
const finderDark = (distance: number) => distance !== 2;

/** Modules of a round pattern that are no longer what they were: the outer corners, and those of ring and heart of a circle. */
const isCorner = (down: number, along: number) => {
  const [far, near] = [Math.max(Math.abs(down), Math.abs(along)), Math.min(Math.abs(down), Math.abs(along))];
  return (far === 3 && near >= 2) || (far === 2 && near === 2) || (far === 1 && near === 1);
};

const centresOf = (size: number) =>
  [
    [3, 3],
    [3, size - 4],
    [size - 4, 3],
  ] as const;

/** Modules around one, within which ink and ground are told apart: a gradient is another one at either end. */
const NEAR = 4;
/** Levels that ink and ground are apart at least, for their difference to be one. */
const APART = 24;

/** The level between ink and ground around each module. */
function middles(levels: Float32Array, size: number, middle: number): Float32Array {
  // Along rows, then along columns: the least and the most of a square window.
  const along = (from: Float32Array, step: number, across: number, pick: (a: number, b: number) => number) => {
    const made = new Float32Array(from.length);
    for (let line = 0; line < size; line += 1)
      for (let place = 0; place < size; place += 1) {
        let best = from[line * across + place * step]!;
        for (let each = Math.max(0, place - NEAR); each <= Math.min(size - 1, place + NEAR); each += 1)
          best = pick(best, from[line * across + each * step]!);
        made[line * across + place * step] = best;
      }
    return made;
  };
  const [least, most] = [Math.min, Math.max].map((pick) => along(along(levels, 1, size, pick), size, 1, pick));
  return least!.map((low, place) => (most![place]! - low < APART ? middle : (low + most![place]!) / 2));
}

/**
 * Measures a code whose modules stand in a grid: `margin` modules of ground around `size` modules, `perModule` pixels each. `expected` are the
 * modules that there should be; those that are `covered` by a mark are left out of the contrast.
 */
export function measure(
  base: Base,
  {
    size,
    margin,
    expected,
    covered = () => false,
  }: { size: number; margin: number; expected: Uint8Array; covered?: (row: number, column: number) => boolean },
): Measures {
  const levels = new Float32Array(size * size);
  for (let row = 0; row < size; row += 1)
    for (let column = 0; column < size; column += 1)
      levels[row * size + column] = moduleLevel(base, column, row, margin);
  const finder = findersOf(levels, size);
  const { middle, darkOnLight } = finder;
  const near = middles(levels, size, middle);
  const kinds: [number[], number[]] = [[], []];
  const wrong = new Uint8Array(size * size);
  levels.forEach((level, place) => {
    const [row, column] = [Math.floor(place / size), place % size];
    const should = expected[place] === 1;
    const isDark = darkOnLight ? level < near[place]! : level > near[place]!;
    const inFinder = centresOf(size).some(([y, x]) => Math.max(Math.abs(y - row), Math.abs(x - column)) <= 4);
    if (isDark !== should && !inFinder) wrong[place] = 1;
    if (!inFinder && !covered(row, column)) kinds[should ? 0 : 1].push(level);
  });
  const data = at(sorted(kinds[1]), 0.1) - at(sorted(kinds[0]), 0.9);
  return {
    contrast: Math.round(Math.min(data, finder.light - finder.dark)),
    darkOnLight,
    margin: marginOf(base, size, margin, finder.light, middle),
    finderFaults: finder.faults,
    wrong,
  };
}

/** The finder patterns: their levels, and how many of their modules are of the wrong kind. */
function findersOf(levels: Float32Array, size: number) {
  const each: { level: number; dark: boolean; corner: boolean }[] = [];
  for (const [row, column] of centresOf(size))
    for (let down = -3; down <= 3; down += 1)
      for (let along = -3; along <= 3; along += 1)
        each.push({
          level: levels[(row + down) * size + column + along]!,
          dark: finderDark(Math.max(Math.abs(down), Math.abs(along))),
          corner: isCorner(down, along),
        });
  const straight = each.filter(({ corner }) => !corner);
  const mid = (dark: boolean) => at(sorted(straight.filter((one) => one.dark === dark).map(({ level }) => level)), 0.5);
  const [dark, light] = [mid(true), mid(false)];
  const middle = (dark + light) / 2;
  const wrong = (one: { level: number; dark: boolean }) => one.level < middle !== (one.dark === dark < light);
  // Drawn square, corners count as well; drawn round, all three are.
  const corners = each.filter(({ corner }) => corner);
  const round = corners.filter(wrong).length >= 12;
  const faults = straight.filter(wrong).length + (round ? 0 : corners.filter(wrong).length);
  return { dark, light, middle, darkOnLight: dark < light, faults };
}

/** Rings of modules around the symbol that are ground all along, up to those that the picture has. */
function marginOf(base: Base, size: number, margin: number, light: number, middle: number): number {
  // Nearer to the ground than to the ink, with as much again for paper's own pattern.
  const isGround = (level: number) => Math.abs(level - light) < Math.abs(light - middle) * 0.7;
  for (let ring = 1; ring <= margin; ring += 1)
    for (let along = -ring; along < size + ring; along += 1)
      for (const [column, row] of [
        [along, -ring],
        [along, size - 1 + ring],
        [-ring, along],
        [size - 1 + ring, along],
      ] as const)
        if (!isGround(moduleLevel(base, column, row, margin))) return ring - 1;
  return margin;
}
