import { interleaving, type Belongs } from './codewords';
import { frameOf } from './matrix';
import { guaranteed, layoutOf, type Level } from './tables';

/** One block of a symbol: how many of its codewords are touched, and how many may be. */
export type BlockBudget = {
  /** Codewords of the block, data and correction. */
  codewords: number;
  /** Codewords of which at least one module is touched. */
  touched: number;
  /** What the standard guarantees to be mended (ISO/IEC 18004, table 9). */
  guaranteed: number;
  /** What a reader that spends all of the correction mends: half of it, rounded down. */
  most: number;
};

export type Budget = {
  blocks: BlockBudget[];
  /** The block with the least left of what is guaranteed; a symbol reads no longer than its tightest block does. */
  tightest: BlockBudget;
  /** Touched modules that belong to no codeword: finders, timing, alignment, format and version information. No correction mends them. */
  patterns: number;
};

/** Which codeword of which block each module belongs to, by row times side plus column: block and place, or null for patterns and what remains. */
export function belongings(version: number, level: Level): readonly (Belongs | null)[] {
  const known = kept.get(`${version}${level}`);
  if (known) return known;
  const { size, order } = frameOf(version);
  const codewords = interleaving(layoutOf(version, level));
  const found = new Array<Belongs | null>(size * size).fill(null);
  order.forEach((place, bit) => (found[place] = codewords[bit >> 3] ?? null));
  kept.set(`${version}${level}`, found);
  return found;
}
const kept = new Map<string, readonly (Belongs | null)[]>();

/**
 * What of a symbol's error correction is spent where modules are touched: covered by a mark, or drawn so that a reader may take them for the other
 * kind. A codeword counts once however many of its eight modules are touched. `touches` is asked of each module by row and column.
 */
export function budgetOf(
  { version, level }: { version: number; level: Level },
  touches: (row: number, column: number) => boolean,
): Budget {
  const layout = layoutOf(version, level);
  const { size, taken } = frameOf(version);
  const touched = Array.from({ length: layout.blocks }, () => new Set<number>());
  let patterns = 0;
  belongings(version, level).forEach((of, at) => {
    if (!touches(Math.floor(at / size), at % size)) return;
    if (of) touched[of.block]!.add(of.place);
    else patterns += taken[at]!;
  });
  const blocks = touched.map((places, block) => ({
    codewords: layout.shortData + (block < layout.shortBlocks ? 0 : 1) + layout.correction,
    touched: places.size,
    guaranteed: guaranteed(version, level),
    most: layout.correction >> 1,
  }));
  const tightest = blocks.reduce((least, each) => (each.touched > least.touched ? each : least));
  return { blocks, tightest, patterns };
}
