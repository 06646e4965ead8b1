import { alignmentCentres, sizeOf, type Level } from './tables';

/** Modules of a side times a side, row by row: 1 dark, 0 light. */
export type Modules = Uint8Array;

/** A symbol without its codewords: what is dark of the patterns that readers look for, and which modules they take. */
export type Frame = { size: number; modules: Modules; taken: Uint8Array };

const frames = new Map<number, Frame & { order: Int32Array }>();

/** The patterns of a version, with the places of format and version information (ISO/IEC 18004, 6.3). Not to be written to. */
export function frameOf(version: number): Frame & { order: Int32Array } {
  const known = frames.get(version);
  if (known) return known;
  const size = sizeOf(version);
  const frame: Frame = { size, modules: new Uint8Array(size * size), taken: new Uint8Array(size * size) };
  const set = (row: number, column: number, dark: boolean) => {
    if (row < 0 || column < 0 || row >= size || column >= size) return;
    frame.modules[row * size + column] = dark ? 1 : 0;
    frame.taken[row * size + column] = 1;
  };
  /** Squares around a centre, dark where `dark` says so of their distance from it. */
  const squares = (row: number, column: number, reach: number, dark: (distance: number) => boolean) => {
    for (let down = -reach; down <= reach; down += 1)
      for (let along = -reach; along <= reach; along += 1)
        set(row + down, column + along, dark(Math.max(Math.abs(down), Math.abs(along))));
  };
  for (let at = 8; at < size - 8; at += 1) {
    set(6, at, at % 2 === 0);
    set(at, 6, at % 2 === 0);
  }
  for (const [row, column] of [
    [3, 3],
    [3, size - 4],
    [size - 4, 3],
  ] as const)
    squares(row, column, 4, (distance) => distance !== 2 && distance !== 4);
  const centres = alignmentCentres(version);
  const last = centres.at(-1);
  for (const row of centres)
    for (const column of centres) {
      const atFinder = (row === 6 && (column === 6 || column === last)) || (row === last && column === 6);
      if (!atFinder) squares(row, column, 2, (distance) => distance !== 1);
    }
  for (const [row, column] of formatPlaces(size).flat()) set(row, column, false);
  set(size - 8, 8, true);
  if (version >= 7) versionBits(version).forEach(([row, column, dark]) => set(row, column, dark));
  const made = { ...frame, order: placing(frame) };
  frames.set(version, made);
  return made;
}

/** Both copies of the format information, each from its most significant bit to its least (ISO/IEC 18004, figure 25). */
export function formatPlaces(size: number): [number, number][][] {
  const around = Array.from({ length: 15 }, (_, at): [number, number] => {
    if (at < 6) return [8, at];
    if (at < 8) return [8, at + 1];
    return at === 8 ? [7, 8] : [14 - at, 8];
  });
  const apart = Array.from({ length: 15 }, (_, at): [number, number] =>
    at < 7 ? [size - 1 - at, 8] : [8, size - 15 + at],
  );
  return [around, apart];
}

/** Remainder of a value in a code of Bose, Chaudhuri and Hocquenghem; `generator` has `bits` + 1 binary digits. */
function checked(value: number, generator: number, bits: number): number {
  let left = value << bits;
  for (let at = 31 - Math.clz32(left); at >= bits; at -= 1) if ((left >>> at) & 1) left ^= generator << (at - bits);
  return (value << bits) | left;
}

/** Version information of versions from 7, in both its places (ISO/IEC 18004, 7.10). */
function versionBits(version: number): [number, number, boolean][] {
  const size = sizeOf(version);
  const bits = checked(version, 0x1f25, 12);
  return Array.from({ length: 18 }, (_, at) => {
    const dark = ((bits >>> at) & 1) === 1;
    const [far, near] = [size - 11 + (at % 3), Math.floor(at / 3)];
    return [
      [near, far, dark],
      [far, near, dark],
    ] as [number, number, boolean][];
  }).flat();
}

const LEVEL_BITS: Record<Level, number> = { L: 0b01, M: 0b00, Q: 0b11, H: 0b10 };

/** Level and mask as 15 bits (ISO/IEC 18004, 7.9). */
export const formatBits = (level: Level, mask: number): number =>
  checked((LEVEL_BITS[level] << 3) | mask, 0x537, 10) ^ 0b101010000010010;

/** Writes level and mask into both their places. */
export function writeFormat(modules: Modules, size: number, level: Level, mask: number): void {
  const bits = formatBits(level, mask);
  for (const places of formatPlaces(size))
    places.forEach(([row, column], at) => (modules[row * size + column] = (bits >>> (14 - at)) & 1));
}

/**
 * Where the bits of codewords stand, one after the other: in columns of two from the right, upwards and downwards in turns, passing over what
 * is taken and the timing pattern's column (ISO/IEC 18004, 7.7.3). Places are row times side plus column.
 */
function placing({ size, taken }: Frame): Int32Array {
  const order: number[] = [];
  let upwards = true;
  for (let right = size - 1; right > 0; right -= 2) {
    if (right === 6) right = 5;
    for (let step = 0; step < size; step += 1) {
      const row = upwards ? size - 1 - step : step;
      for (const column of [right, right - 1]) if (!taken[row * size + column]) order.push(row * size + column);
    }
    upwards = !upwards;
  }
  return Int32Array.from(order);
}

/** Whether a mask turns a module over (ISO/IEC 18004, table 10). */
export const MASKS: readonly ((row: number, column: number) => boolean)[] = [
  (row, column) => (row + column) % 2 === 0,
  (row) => row % 2 === 0,
  (_, column) => column % 3 === 0,
  (row, column) => (row + column) % 3 === 0,
  (row, column) => ((row >> 1) + Math.floor(column / 3)) % 2 === 0,
  (row, column) => ((row * column) % 2) + ((row * column) % 3) === 0,
  (row, column) => (((row * column) % 2) + ((row * column) % 3)) % 2 === 0,
  (row, column) => (((row + column) % 2) + ((row * column) % 3)) % 2 === 0,
];

const planes = new Map<number, Uint8Array>();

/** What a mask does to each place of codewords in a version, in their order: 1 where it turns the module over. */
function planeOf(version: number, mask: number): Uint8Array {
  const known = planes.get(version * 8 + mask);
  if (known) return known;
  const { size, order } = frameOf(version);
  const turns = MASKS[mask]!;
  const made = Uint8Array.from(order, (place) => (turns(Math.floor(place / size), place % size) ? 1 : 0));
  planes.set(version * 8 + mask, made);
  return made;
}

/** The symbol of codewords in a version, with a mask. What remains after the last codeword is light before it is masked. */
export function fill(version: number, level: Level, mask: number, codewords: Uint8Array): Modules {
  const { size, modules, order } = frameOf(version);
  const filled = Uint8Array.from(modules);
  const plane = planeOf(version, mask);
  const bits = codewords.length * 8;
  for (let at = 0; at < order.length; at += 1)
    filled[order[at]!] = (at < bits ? (codewords[at >> 3]! >>> (7 - (at & 7))) & 1 : 0) ^ plane[at]!;
  writeFormat(filled, size, level, mask);
  return filled;
}
