import {
  budgetOf,
  codeSvg,
  coveredBy,
  drawCode,
  QUIET_ZONE,
  sideOf,
  smallestMm,
  symbolFor,
  symbolInStyle,
  type CodeStyle,
  type Level,
  type Symbol,
} from '@/core/qr';
import { measure, type Measures } from './measure';
import { greyFrom, type Grey } from './grey';
import { AROUND, straightened, type Found } from './locate';
import { painted } from './paint';
import { faultsOf, QUICK_PIXELS, tryCode } from './prove';
import { MAIN_READERS, readByBoth, type Fault, type ScanProof } from './shape';
import { changesOf, type Remedy } from './remedies';
import { fewestPixels } from './sizes';
import { QUICK, type Base } from './trials';

/** What error correction can mend in the tightest block, in codewords, and what a style takes of it. */
export type Spent = { codewords: number; guaranteed: number; most: number; byMark: number; byShapes: number };

/** Whether a change was tried, and what came of it: pictures that both main readers read, before and after. */
export type Tested = { remedy: Remedy | 'plain'; before: number; after: number; of: number; style: CodeStyle };

/** All that is found of a code; sizes in millimetres, null where it does not pass. */
export type CodeReport = {
  text: string;
  version: number;
  level: Level;
  size: number;
  /** Modules across the whole of it, margin and words along its edges in. */
  side: number;
  faults: Fault[];
  proof: ScanProof;
  measures: Omit<Measures, 'wrong'>;
  spent: Spent;
  fewestPixels: number | null;
  smallestMm: number | null;
};

/** Pixels a module of the picture that trials are made from: as many as the largest trial wants, and fewer of large symbols. */
const perModuleOf = (side: number): number => Math.max(4, Math.min(10, Math.round(640 / side)));

/** What a photo or a coloured sheet may be where nothing is printed behind a code: patches from light to dark. */
function onSheet({ data, width, height }: { data: Uint8Array; width: number; height: number }): Grey {
  const light = greyFrom(data, width, height, 255);
  const dark = greyFrom(data, width, height, 120);
  return {
    ...{ width, height },
    data: light.data.map((level, at) => {
      const share = 0.5 + 0.5 * Math.sin(((at % width) / width) * 9 + (Math.floor(at / width) / height) * 7);
      return Math.round(level * share + dark.data[at]! * (1 - share));
    }),
  };
}

/** A styled symbol painted for its trials: the very drawing that goes out, without the words below it. */
export function baseOf(symbol: Symbol, style: CodeStyle): Base {
  const side = symbol.size + 2 * QUIET_ZONE;
  const perModule = perModuleOf(side);
  const pixels = painted(codeSvg(drawCode(symbol, style), { title: '', pixels: side * perModule }));
  const picture = style.ground === null ? onSheet(pixels) : greyFrom(pixels.data, pixels.width, pixels.height);
  return { picture, perModule, side };
}

/** What mark and shapes spend of the tightest block. */
function spentOf(symbol: Symbol, style: CodeStyle, wrong: Uint8Array): Spent {
  const covered = coveredBy(symbol, style);
  const all = budgetOf(symbol, (row, column) => covered(row, column) || wrong[row * symbol.size + column] === 1);
  const at = all.blocks.indexOf(all.tightest);
  const byMark = budgetOf(symbol, covered).blocks[at]!.touched;
  const { codewords, guaranteed, most, touched } = all.tightest;
  return { codewords, guaranteed, most, byMark, byShapes: touched - byMark };
}

export type Proving = { progress?: (done: number, of: number) => boolean | void; pause?: () => Promise<void> };

/** The quick proof of a styled code: tried by both main readers, measured. Error: `TooLong`. Answers null where it was stopped. */
export async function proveStyled(
  text: string,
  style: CodeStyle,
  { symbol = symbolInStyle(text, style), ...proving }: Proving & { symbol?: Symbol } = {},
): Promise<CodeReport | null> {
  const base = baseOf(symbol, style);
  const proof = await tryCode(base, text, QUICK, { readers: MAIN_READERS, pixels: QUICK_PIXELS, ...proving });
  if (!proof) return null;
  const covered = coveredBy(symbol, style);
  const { wrong, ...measures } = measure(base, {
    size: symbol.size,
    margin: QUIET_ZONE,
    expected: symbol.dark,
    covered,
  });
  const faults = faultsOf(proof, measures);
  const fewest = faults.length > 0 ? null : await fewestPixels(base, text);
  return {
    ...{ text, version: symbol.version, level: symbol.level, size: symbol.size, faults, proof, measures },
    side: sideOf(symbol.size, style),
    spent: spentOf(symbol, style, wrong),
    fewestPixels: fewest,
    smallestMm: fewest === null ? null : smallestMm(sideOf(symbol.size, style), fewest),
  };
}

/** Whether a code of a style that was proven reads back: both main readers, at two scales, sharp. */
export async function readsBack(text: string, style: CodeStyle, symbol: Symbol): Promise<boolean> {
  const base = baseOf(symbol, style);
  const trials = QUICK.filter(({ kind }) => kind === 'sharp').slice(1, 3);
  const proof = await tryCode(base, text, trials, { readers: MAIN_READERS, pixels: QUICK_PIXELS });
  return readByBoth(proof!).read === trials.length;
}

/**
 * The least change of a style that lets it pass, found by making each and trying it; where none does alone, the one that helps most. Null where
 * nothing helps, or it was stopped.
 */
export async function remedyOf(report: CodeReport, style: CodeStyle, proving: Proving = {}): Promise<Tested | null> {
  const before = readByBoth(report.proof).read;
  let best: Tested | null = null;
  for (const { remedy, style: changed } of changesOf(style)) {
    if (remedy === 'plain' && best && best.after === best.of) break;
    const now = await proveStyled(report.text, changed, proving);
    if (!now) return null;
    const { read: after, of } = readByBoth(now.proof);
    const tested = { remedy, before, after, of, style: changed };
    if (now.faults.length === 0 && after > before) return tested;
    if (now.faults.length === 0 && report.faults.length > 0 && after >= before) return tested;
    if (after > (best?.after ?? before)) best = tested;
  }
  return best;
}

/**
 * A code found in a picture of any origin. `widthPixels` is the width of its symbol without margin in that picture, `modules` what they should be:
 * those of the symbol that it is nearest to, or as they were read.
 */
export type FoundReport = CodeReport & { found: Found; widthPixels: number; modules: Uint8Array };

/** The symbol of a text as a picture shows it: version and what mask and level its modules stand nearest to. */
function nearest(text: string, { size, modules }: Found): Symbol | null {
  let best: Symbol | null = null;
  let least = Infinity;
  for (const level of ['L', 'M', 'Q', 'H'] as const)
    for (let mask = 0; mask < 8; mask += 1) {
      try {
        const symbol = symbolFor(text, { version: (size - 17) / 4, level, mask });
        const apart = symbol.dark.reduce((sum, dark, at) => sum + (dark === modules[at] ? 0 : 1), 0);
        if (apart < least) [best, least] = [symbol, apart];
      } catch {
        // The text does not fit at this level.
      }
    }
  // Packed otherwise than ours would be, it shares no more than chance has it.
  return best && least < size * size * 0.3 ? best : null;
}

/** Proves a code that was found in a picture, from its very pixels and what is around it. */
export async function proveFound(picture: Grey, found: Found, proving: Proving = {}): Promise<FoundReport | null> {
  const base = straightened(picture, found);
  const proof = await tryCode(base, found.text, QUICK, { readers: MAIN_READERS, pixels: QUICK_PIXELS, ...proving });
  if (!proof) return null;
  const symbol = nearest(found.text, found);
  const { size } = found;
  const modules = symbol?.dark ?? found.modules;
  const { wrong, ...measures } = measure(base, { size, margin: AROUND, expected: modules });
  const version = (size - 17) / 4;
  const level = symbol?.level ?? 'L';
  const budget = budgetOf({ version, level }, (row, column) => symbol !== null && wrong[row * size + column] === 1);
  const faults = faultsOf(proof, measures);
  const fewest = faults.length > 0 ? null : await fewestPixels(base, found.text);
  const { codewords, guaranteed, most, touched } = budget.tightest;
  return {
    ...{ text: found.text, version, level, size, faults, proof, measures, found },
    side: sideOf(size),
    spent: { codewords, guaranteed, most, byMark: 0, byShapes: touched },
    fewestPixels: fewest,
    smallestMm: fewest === null ? null : smallestMm(sideOf(size), fewest),
    widthPixels: found.pixels * size,
    modules,
  };
}
