import type { ReadResult } from 'zxing-wasm/reader';
import { levelAt, projected, projection, warped, type Corners, type Grey, type Projection } from './grey';
import { OUTSIDE } from './measure';
import { findByZbar, findCodes } from './readers';
import type { Base } from './trials';

/** A code found in a picture: where it stands, what it holds, and its modules as they were read. */
export type Found = {
  text: string;
  size: number;
  /** The symbol's corners in the picture's pixels: top left, top right, bottom right, bottom left as the code itself stands. */
  corners: Corners;
  /** As a reader sampled them, 1 for dark, before anything was corrected. */
  modules: Uint8Array;
  inverted: boolean;
  /** Pixels a module in the picture, the mean of its sides. */
  pixels: number;
};

/** Modules of what is around a code that are looked at. */
export const AROUND = 4;

const cornersOf = ({ position }: ReadResult): Corners =>
  [position.topLeft, position.topRight, position.bottomRight, position.bottomLeft].map(({ x, y }) => [x, y] as const);

/** A reader's modules, whichever way round it gives those of an inverted code: the heart of a finder pattern is dark (ISO/IEC 18004, 6.3.3). */
function modulesOf({ symbol }: ReadResult): Uint8Array {
  const { data, width, height } = symbol as { data: Uint8Array | Uint8ClampedArray; width: number; height: number };
  const stride = data.length / height;
  const heart = data[3 * stride + 3]! < 128;
  const made = new Uint8Array(width * height);
  for (let row = 0; row < height; row += 1)
    for (let column = 0; column < width; column += 1)
      made[row * width + column] = data[row * stride + column]! < 128 === heart ? 1 : 0;
  return made;
}

const lengthOf = ([x, y]: readonly [number, number], [u, v]: readonly [number, number]) => Math.hypot(u - x, v - y);

/** Where on a module its level is asked: near its corners, where a grid that is a little off shows first; of data the middle alone, since dots leave the rest free. */
const CORNERS = [
  [0.15, 0.15],
  [0.15, 0.85],
  [0.85, 0.15],
  [0.85, 0.85],
] as const;
const MIDDLE = [[0.5, 0.5]] as const;

/**
 * How well dark modules stand on dark pixels, seen through a projection from modules to pixels. Finder patterns with the light around them, which
 * every style draws whole, count most; they stand alike on all their sides, so that nothing draws them one way.
 */
function agreement(picture: Grey, through: Projection, modules: Uint8Array, rows: number, size = rows): number {
  let sum = 0;
  const module = (row: number, column: number, dark: boolean, spots: readonly (readonly [number, number])[]) => {
    for (const [down, along] of spots) {
      const [x, y] = projected(through, column + along, row + down);
      const level = levelAt(picture, x - 0.5, y - 0.5, OUTSIDE);
      sum += dark ? -level : level;
    }
  };
  for (const [row, column] of [
    [3, 3],
    [3, size - 4],
    [size - 4, 3],
  ] as const)
    for (let down = -4; down <= 4; down += 1)
      for (let along = -4; along <= 4; along += 1) {
        const distance = Math.max(Math.abs(down), Math.abs(along));
        module(row + down, column + along, distance !== 2 && distance !== 4, CORNERS);
      }
  // The alignment pattern nearest to the corner that has no finder (ISO/IEC 18004, 6.3.6).
  if (size > 21)
    for (let down = -2; down <= 2; down += 1)
      for (let along = -2; along <= 2; along += 1)
        module(size - 7 + down, size - 7 + along, Math.max(Math.abs(down), Math.abs(along)) !== 1, CORNERS);
  // Of large symbols every second or third module of the data.
  const step = Math.max(1, Math.round(size / 40));
  for (let row = 0; row < rows; row += 1)
    for (let column = row % step; column < size; column += step)
      module(row, column, modules[row * size + column] === 1, MIDDLE);
  return sum;
}

/** Moves the corners by ever smaller shares of a module for as long as dark modules come to stand on darker pixels. */
function refined(picture: Grey, { corners, modules, size, pixels, inverted }: Found): Corners {
  const grid: Corners = [
    [0, 0],
    [size, 0],
    [size, size],
    [0, size],
  ];
  const sign = inverted ? -1 : 1;
  const worth = (tried: Corners) => sign * agreement(picture, projection(grid, tried), modules, size);
  let best = corners.map(([x, y]): [number, number] => [x, y]);
  let most = worth(best);
  const moved = (from: [number, number][], by: (at: number) => readonly [number, number]) =>
    from.map(([x, y], at): [number, number] => [x + by(at)[0], y + by(at)[1]]);
  for (let share = 0.6; share > 0.03; share /= 2) {
    const step = share * pixels;
    for (let again = 0; again < 3; again += 1) {
      const before = most;
      const ways: ((at: number) => readonly [number, number])[] = [];
      for (const [x, y] of [
        [step, 0],
        [-step, 0],
        [0, step],
        [0, -step],
      ] as const) {
        ways.push(() => [x, y]);
        for (let corner = 0; corner < 4; corner += 1) ways.push((at) => (at === corner ? [x, y] : [0, 0]));
      }
      for (const way of ways) {
        const tried = moved(best, way);
        const now = worth(tried);
        if (now > most) [best, most] = [tried, now];
      }
      if (most === before) break;
    }
  }
  return best;
}

const gridOf = (size: number): Corners => [
  [0, 0],
  [size, 0],
  [size, size],
  [0, size],
];

/** Levels of finder patterns and of the timing pattern's beat between them, seen with a size: the more, the likelier. */
function beat(picture: Grey, corners: Corners, size: number): number {
  const through = projection(gridOf(size), corners);
  let sum = 0;
  for (let at = 8; at < size - 8; at += 1)
    for (const [row, column] of [
      [6, at],
      [at, 6],
    ] as const) {
      const [x, y] = projected(through, column + 0.5, row + 0.5);
      sum += (at % 2 === 0 ? -1 : 1) * levelAt(picture, x - 0.5, y - 0.5, OUTSIDE);
    }
  return sum / (size - 16) + agreement(picture, through, NO_DATA, 0, size) / 486;
}
const NO_DATA = new Uint8Array(0);

/** Modules as the middles of a grid have them, against the middle of what finders say is dark and light. */
function sampled(picture: Grey, corners: Corners, size: number): Uint8Array {
  const through = projection(gridOf(size), corners);
  const level = (row: number, column: number) => {
    const [x, y] = projected(through, column + 0.5, row + 0.5);
    return levelAt(picture, x - 0.5, y - 0.5, OUTSIDE);
  };
  const middle = (level(3, 3) + level(1, 3) + level(3, size - 4) + level(1, size - 4)) / 4;
  return Uint8Array.from({ length: size * size }, (_, at) =>
    level(Math.floor(at / size), at % size) < middle ? 1 : 0,
  );
}

/**
 * The codes that zbar alone finds, as on a dark ground without a margin. It tells where they stand, not how they are turned nor how many modules they
 * have: of all that could be, the one that finders and timing pattern agree with most.
 */
async function locateByZbar(picture: Grey): Promise<Found[]> {
  return (await findByZbar(picture)).flatMap(({ text, points }) => {
    let best: { corners: Corners; size: number; worth: number } | null = null;
    for (let turn = 0; turn < 4; turn += 1)
      for (const order of [
        [0, 1, 2, 3],
        [3, 2, 1, 0],
      ])
        for (let size = 21; size <= 177; size += 4) {
          const corners = order.map((at) => points[(at + turn) % 4]!);
          const worth = beat(picture, corners, size);
          if (worth > (best?.worth ?? 0)) best = { corners, size, worth };
        }
    if (!best) return [];
    const { corners, size } = best;
    const pixels = meanSide(corners) / size;
    const rough = { text, size, corners, modules: sampled(picture, corners, size), inverted: false, pixels };
    const exact = refined(picture, rough);
    return [{ ...rough, corners: exact, modules: sampled(picture, exact, size) }];
  });
}

const meanSide = (corners: Corners): number =>
  corners.reduce((sum, corner, at) => sum + lengthOf(corner, corners[(at + 1) % 4]!), 0) / 4;

/**
 * The codes in a picture, at most `most`, each with its corners as exactly as its modules tell them; `roughly` as exactly as a reader tells them,
 * which is enough of what was painted straight.
 */
export async function locate(picture: Grey, most: number, roughly = false): Promise<Found[]> {
  const found = await findCodes(picture, most);
  const located = found.flatMap((result) => {
    const { width: size, height } = result.symbol as { width: number; height: number };
    if (!result.isValid || size !== height || size < 21 || (size - 17) % 4 !== 0) return [];
    const corners = cornersOf(result);
    const rough: Found = {
      ...{ text: result.text, size, corners, modules: modulesOf(result), inverted: result.isInverted },
      pixels: meanSide(corners) / size,
    };
    return [roughly ? rough : { ...rough, corners: refined(picture, rough) }];
  });
  return located.length > 0 ? located : (await locateByZbar(picture)).slice(0, most);
}

/** A picture whose edges go on for so many pixels: a code that is cut out with just its margin is not found to have less by a hair. */
function widened({ width, height, data }: Grey, by: number): Grey {
  const made = {
    width: width + 2 * by,
    height: height + 2 * by,
    data: new Uint8Array((width + 2 * by) * (height + 2 * by)),
  };
  for (let y = 0; y < made.height; y += 1) {
    const row = Math.min(height - 1, Math.max(0, y - by)) * width;
    made.data.fill(data[row]!, y * made.width, y * made.width + by);
    made.data.set(data.subarray(row, row + width), y * made.width + by);
    made.data.fill(data[row + width - 1]!, y * made.width + by + width, (y + 1) * made.width);
  }
  return made;
}

/** Modules beyond a picture's edge that are taken to be as its edge is. */
const BEYOND = 0.5;

/** A found code as if it stood straight before one, with what is around it: as trials and measures take it. */
export function straightened(picture: Grey, { corners, size, pixels }: Found): Base {
  const side = size + 2 * AROUND;
  const perModule = Math.max(3, Math.min(12, Math.round(pixels), Math.round(900 / side)));
  const by = Math.ceil(pixels * BEYOND);
  const [from, to] = [AROUND * perModule, (AROUND + size) * perModule];
  const modules = projection(
    [
      [from, from],
      [to, from],
      [to, to],
      [from, to],
    ],
    corners.map(([x, y]) => [x + by, y + by] as const),
  );
  const wide = widened(picture, by);
  return { picture: warped(wide, modules, side * perModule, side * perModule, OUTSIDE), perModule, side };
}
