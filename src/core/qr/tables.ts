/** Error correction levels of ISO/IEC 18004: about 7, 15, 25 and 30 % of the codewords can be restored. */
export type Level = 'L' | 'M' | 'Q' | 'H';
export const LEVELS: readonly Level[] = ['L', 'M', 'Q', 'H'];

export const LARGEST_VERSION = 40;

/** Modules a side (ISO/IEC 18004, 6.3.2). */
export const sizeOf = (version: number): number => 17 + 4 * version;

/** Error correction codewords of each block, by level and version from 1 (ISO/IEC 18004, table 9). */
const PER_BLOCK: Record<Level, number[]> = {
  L: [
    ...[7, 10, 15, 20, 26, 18, 20, 24, 30, 18, 20, 24, 26, 30, 22, 24, 28, 30, 28, 28],
    ...[28, 28, 30, 30, 26, 28, 30, 30, 30, 30, 30, 30, 30, 30, 30, 30, 30, 30, 30, 30],
  ],
  M: [
    ...[10, 16, 26, 18, 24, 16, 18, 22, 22, 26, 30, 22, 22, 24, 24, 28, 28, 26, 26, 26],
    ...[26, 28, 28, 28, 28, 28, 28, 28, 28, 28, 28, 28, 28, 28, 28, 28, 28, 28, 28, 28],
  ],
  Q: [
    ...[13, 22, 18, 26, 18, 24, 18, 22, 20, 24, 28, 26, 24, 20, 30, 24, 28, 28, 26, 30],
    ...[28, 30, 30, 30, 30, 28, 30, 30, 30, 30, 30, 30, 30, 30, 30, 30, 30, 30, 30, 30],
  ],
  H: [
    ...[17, 28, 22, 16, 22, 28, 26, 26, 24, 28, 24, 28, 22, 24, 24, 30, 28, 28, 26, 28],
    ...[30, 24, 30, 30, 30, 30, 30, 30, 30, 30, 30, 30, 30, 30, 30, 30, 30, 30, 30, 30],
  ],
};

/** Blocks that the codewords are in, by level and version from 1 (ISO/IEC 18004, table 9). */
const BLOCKS: Record<Level, number[]> = {
  L: [
    ...[1, 1, 1, 1, 1, 2, 2, 2, 2, 4, 4, 4, 4, 4, 6, 6, 6, 6, 7, 8],
    ...[8, 9, 9, 10, 12, 12, 12, 13, 14, 15, 16, 17, 18, 19, 19, 20, 21, 22, 24, 25],
  ],
  M: [
    ...[1, 1, 1, 2, 2, 4, 4, 4, 5, 5, 5, 8, 9, 9, 10, 10, 11, 13, 14, 16],
    ...[17, 17, 18, 20, 21, 23, 25, 26, 28, 29, 31, 33, 35, 37, 38, 40, 43, 45, 47, 49],
  ],
  Q: [
    ...[1, 1, 2, 2, 4, 4, 6, 6, 8, 8, 8, 10, 12, 16, 12, 17, 16, 18, 21, 20],
    ...[23, 23, 25, 27, 29, 34, 34, 35, 38, 40, 43, 45, 48, 51, 53, 56, 59, 62, 65, 68],
  ],
  H: [
    ...[1, 1, 2, 4, 4, 4, 5, 6, 8, 8, 11, 11, 16, 16, 18, 16, 19, 21, 25, 25],
    ...[25, 34, 30, 32, 35, 37, 40, 42, 45, 48, 51, 54, 57, 60, 63, 66, 70, 74, 77, 81],
  ],
};

/** Centres of alignment patterns along either axis; none in version 1 (ISO/IEC 18004, annex E). */
export function alignmentCentres(version: number): number[] {
  if (version === 1) return [];
  const count = Math.floor(version / 7) + 2;
  const size = sizeOf(version);
  // Even steps from the last one backwards; version 32 alone is rounded otherwise.
  const step = version === 32 ? 26 : Math.ceil((size - 13) / (2 * count - 2)) * 2;
  const centres = Array.from({ length: count - 1 }, (_, at) => size - 7 - at * step);
  return [...centres, 6].reverse();
}

/** Modules that are left for codewords, the few remaining ones included (ISO/IEC 18004, table 1). */
function dataModules(version: number): number {
  const size = sizeOf(version);
  const aligned = alignmentCentres(version).length;
  // Three finders with their separators, timing, format information and the dark module.
  const finders = 3 * 64 + 2 * (size - 16) + 31;
  // Patterns at the three corners are none; those on the timing patterns share five modules with them.
  const alignment = aligned === 0 ? 0 : 25 * (aligned * aligned - 3) - 5 * 2 * (aligned - 2);
  const versions = version >= 7 ? 36 : 0;
  return size * size - finders - alignment - versions;
}

/** How codewords are laid out in blocks: the first `shortBlocks` hold `shortData` codewords of data, all others one more. */
export type Layout = {
  blocks: number;
  shortBlocks: number;
  shortData: number;
  /** Error correction codewords of each block. */
  correction: number;
  /** Codewords of data, and all together. */
  data: number;
  total: number;
};

export function layoutOf(version: number, level: Level): Layout {
  const total = dataModules(version) >> 3;
  const [blocks, correction] = [BLOCKS[level][version - 1]!, PER_BLOCK[level][version - 1]!];
  const data = total - blocks * correction;
  return {
    blocks,
    shortBlocks: blocks - (data % blocks),
    shortData: Math.floor(data / blocks),
    correction,
    data,
    total,
  };
}

/**
 * Codewords of one block that may be wrong without the text being lost, by the standard: of the smallest versions some of the correction
 * is kept for telling that a symbol was misread (ISO/IEC 18004, table 9, note on p).
 */
export function guaranteed(version: number, level: Level): number {
  const misread: Partial<Record<string, number>> = { '1L': 3, '1M': 2, '1Q': 1, '1H': 1, '2L': 2, '3L': 1 };
  const kept = misread[`${version}${level}`] ?? 0;
  return Math.floor((layoutOf(version, level).correction - kept) / 2);
}
