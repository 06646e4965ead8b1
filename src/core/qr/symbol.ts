import { interleave } from './codewords';
import { fill, type Modules } from './matrix';
import { bestMask } from './penalty';
import { bitsOf, segmentsOf, writeSegments, type Bits } from './segments';
import { LARGEST_VERSION, layoutOf, LEVELS, sizeOf, type Level } from './tables';

/** A QR code's modules: `size` modules a side, row by row, 1 for dark; `version` 1 to 40, `mask` 0 to 7. */
export type Symbol = { size: number; version: number; level: Level; mask: number; dark: Modules };

/** A text is longer than the largest symbol holds at its level. */
export class TooLong extends Error {
  override name = 'TooLong';
}

/** What may be asked of a symbol beside its text; what is not given is chosen. */
export type Wanted = { atLeast?: Level; version?: number; level?: Level; mask?: number };

const capacity = (version: number, level: Level): number => layoutOf(version, level).data * 8;

/**
 * The smallest version that holds a text at a level, with its segments: they depend on the version's group alone, so three are tried at most
 * (ISO/IEC 18004, table 7).
 */
function smallest(text: string, level: Level) {
  for (const [first, last] of [
    [1, 9],
    [10, 26],
    [27, LARGEST_VERSION],
  ] as const) {
    const segments = segmentsOf(text, last);
    const bits = bitsOf(segments, last);
    for (let version = first; version <= last; version += 1)
      if (bits <= capacity(version, level)) return { version, segments, bits };
  }
  throw new TooLong(`no symbol holds ${text.length} characters at level ${level}`);
}

/**
 * The symbol for a text (ISO/IEC 18004), at least at level `atLeast` (M); the level is raised as far as it costs no larger version, and the mask
 * is the one with the fewest penalty points. Upper-case addresses take the alphanumeric mode, two characters in 11 bits; what is beyond ASCII
 * is marked as UTF-8. `version`, `level` and `mask` redraw a symbol that is known. Error: {@link TooLong}.
 */
export function symbolFor(text: string, wanted: Level | Wanted = 'M'): Symbol {
  const { atLeast = 'M', ...fixed }: Wanted = typeof wanted === 'string' ? { atLeast: wanted } : wanted;
  const found = smallest(text, fixed.level ?? atLeast);
  const version = fixed.version ?? found.version;
  if (version < found.version) throw new TooLong(`version ${version} does not hold ${text.length} characters`);
  const segments = version === found.version ? found.segments : segmentsOf(text, version);
  const bits = bitsOf(segments, version);
  const level = fixed.level ?? LEVELS.findLast((each) => bits <= capacity(version, each))!;
  const codewords = interleave(padded(writeSegments(segments, version), version, level), layoutOf(version, level));
  const size = sizeOf(version);
  const mask = fixed.mask ?? bestMask(version, level, codewords).mask;
  return { size, version, level, mask, dark: fill(version, level, mask, codewords) };
}

/** Bits as codewords of data: ended by four zeros where there is room, filled with two codewords in turns (ISO/IEC 18004, 7.4.10). */
function padded(bits: Bits, version: number, level: Level): Uint8Array {
  const data = bits.bytes.slice(0, layoutOf(version, level).data);
  const from = Math.ceil(Math.min(bits.length + 4, data.length * 8) / 8);
  for (let at = from; at < data.length; at += 1) data[at] = (at - from) % 2 === 0 ? 0xec : 0x11;
  return data;
}
