import { MASKS, formatBits, formatPlaces, frameOf } from './matrix';
import type { Level } from './tables';

/**
 * The lines of a symbol as bits: rows one after the other, then columns, each of `words` 32-bit words, the first module lowest. What eight masks are held
 * against each other by looks at 32 modules at a time.
 */
type Lines = { size: number; words: number; bits: Int32Array };

const emptyLines = (size: number): Lines => {
  const words = Math.ceil(size / 32);
  return { size, words, bits: new Int32Array(2 * size * words) };
};

/** Turns a module over, in its row and in its column. */
function flip({ size, words, bits }: Lines, row: number, column: number): void {
  bits[row * words + (column >> 5)]! ^= 1 << (column & 31);
  bits[(size + column) * words + (row >> 5)]! ^= 1 << (row & 31);
}

const planes = new Map<number, Int32Array>();

/** What a mask turns over in a version, codewords alone, as lines. */
function planeOf(version: number, mask: number): Int32Array {
  const known = planes.get(version * 8 + mask);
  if (known) return known;
  const { size, order } = frameOf(version);
  const lines = emptyLines(size);
  const turns = MASKS[mask]!;
  for (const place of order) {
    const [row, column] = [Math.floor(place / size), place % size];
    if (turns(row, column)) flip(lines, row, column);
  }
  planes.set(version * 8 + mask, lines.bits);
  return lines.bits;
}

function countBits(word: number): number {
  let left = word - ((word >>> 1) & 0x55555555);
  left = (left & 0x33333333) + ((left >>> 2) & 0x33333333);
  return Math.imul((left + (left >>> 4)) & 0x0f0f0f0f, 0x01010101) >>> 24;
}

/** Longest line in words, and one more that is empty, so that a shift finds something beyond the end. */
const ROOM = 7;
const line = new Int32Array(ROOM);
const alike = new Int32Array(ROOM);
const fives = new Int32Array(ROOM);
const light = new Int32Array(ROOM);
const heart = new Int32Array(ROOM);

/** A word of a line that is moved so that module `by` comes first. */
const moved = (of: Int32Array, word: number, by: number): number => {
  const [whole, rest] = [word + (by >> 5), by & 31];
  return rest === 0 ? of[whole]! : (of[whole]! >>> rest) | (of[whole + 1]! << (32 - rest));
};

/** Keeps the first `count` bits of a line and clears what lies beyond. */
function clipped(of: Int32Array, words: number, count: number): void {
  for (let word = 0; word < words; word += 1) {
    const left = count - word * 32;
    if (left <= 0) of[word] = 0;
    else if (left < 32) of[word]! &= (1 << left) - 1;
  }
}

/** Points of the line in `line`: runs of five and more of one kind, and what looks like a finder with its light side. `alike` is left filled. */
function pointsOfLine(size: number, words: number): number {
  for (let word = 0; word < words; word += 1) alike[word] = ~(line[word]! ^ moved(line, word, 1));
  clipped(alike, words, size - 1);
  for (let word = 0; word < words; word += 1)
    fives[word] = alike[word]! & moved(alike, word, 1) & moved(alike, word, 2) & moved(alike, word, 3);
  let points = 0;
  for (let word = 0; word < words; word += 1) {
    const here = fives[word]!;
    // Of a run of five and more each place where five begin counts one, and its first two more.
    const before = word === 0 ? 0 : fives[word - 1]! >>> 31;
    if (here !== 0) points += countBits(here) + 2 * countBits(here & ~((here << 1) | before));
    light[word] = ~line[word]! & ~moved(line, word, 1) & ~moved(line, word, 2) & ~moved(line, word, 3);
    heart[word] =
      line[word]! &
      ~moved(line, word, 1) &
      moved(line, word, 2) &
      moved(line, word, 3) &
      moved(line, word, 4) &
      ~moved(line, word, 5) &
      moved(line, word, 6);
  }
  clipped(light, words, size - 3);
  clipped(heart, words, size - 6);
  for (let word = 0; word < words; word += 1) {
    const after = heart[word]! & moved(light, word, 7);
    const ahead = light[word]! & moved(heart, word, 4);
    if (after | ahead) points += 40 * (countBits(after) + countBits(ahead));
  }
  return points;
}

/**
 * How hard a symbol is on readers, in points of the standard (ISO/IEC 18004, 7.8.3): long runs of one kind, squares of two by two, what looks like a
 * finder, and more of the one kind than of the other. Beyond `enough` points nothing is counted any more.
 */
function penaltyOf({ size, words, bits }: Lines, enough: number): number {
  let points = 0;
  let dark = 0;
  const above = new Int32Array(2 * words);
  for (let at = 0; at < 2 * size && points < enough; at += 1) {
    for (let word = 0; word < words; word += 1) line[word] = bits[at * words + word]!;
    points += pointsOfLine(size, words);
    if (at >= size) continue;
    for (let word = 0; word < words; word += 1) {
      dark += countBits(line[word]!);
      // Two by two: alike in this row and in the one above, and these two alike.
      if (at > 0) points += 3 * countBits(alike[word]! & above[word]! & ~(line[word]! ^ above[words + word]!));
      above[word] = alike[word]!;
      above[words + word] = line[word]!;
    }
  }
  if (points >= enough) return points;
  return points + 10 * Math.floor(Math.abs((dark * 100) / (size * size) - 50) / 5);
}

/** The mask with the fewest points, of equals the first, and its points. */
export function bestMask(version: number, level: Level, codewords: Uint8Array): { mask: number; points: number } {
  const { size, modules, order } = frameOf(version);
  const plain = emptyLines(size);
  for (let place = 0; place < modules.length; place += 1)
    if (modules[place]) flip(plain, Math.floor(place / size), place % size);
  const bits = codewords.length * 8;
  for (let at = 0; at < bits; at += 1)
    if ((codewords[at >> 3]! >>> (7 - (at & 7))) & 1) flip(plain, Math.floor(order[at]! / size), order[at]! % size);
  const masked = emptyLines(size);
  const copies = formatPlaces(size);
  let best = { mask: 0, points: Infinity };
  for (let mask = 0; mask < 8; mask += 1) {
    const plane = planeOf(version, mask);
    for (let at = 0; at < plane.length; at += 1) masked.bits[at] = plain.bits[at]! ^ plane[at]!;
    const format = formatBits(level, mask);
    for (const places of copies)
      places.forEach(([row, column], at) => {
        // In the frame they are light.
        if ((format >>> (14 - at)) & 1) flip(masked, row, column);
      });
    const points = penaltyOf(masked, best.points);
    if (points < best.points) best = { mask, points };
  }
  return best;
}
