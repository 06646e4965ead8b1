import { GREY_STEP, QUIET_ZONE } from '@/core/qr';
import type { Measures } from './measure';
import { READ } from './readers';
import { FAULTS, PASS_OF_24, readByBoth, type Fault, type ReaderName, type ScanProof, type Tried } from './shape';
import { trialPicture, type Base, type Trial } from './trials';

/** Pixels a side of a quick and of a full proof's pictures before they are turned. */
export const QUICK_PIXELS = 350;
export const FULL_PIXELS = 300;

export type Asking = {
  readers: readonly ReaderName[];
  pixels: number;
  /** Told after each picture; answers false to stop. */
  progress?: (done: number, of: number) => boolean | void;
  /** Lets others have their turn between pictures. */
  pause?: () => Promise<void>;
};

/**
 * Tries a code: each trial's picture is made and given to each reader, whose answer is compared with the text letter by letter. A reader that fails is
 * shown as such, and no other takes its place. Answers null where it was stopped.
 */
export async function tryCode(
  base: Base,
  text: string,
  trials: readonly Trial[],
  { readers, pixels, progress, pause }: Asking,
): Promise<ScanProof | null> {
  const proof: ScanProof = { trials: [], read: Object.fromEntries(readers.map((name) => [name, 0])), misread: 0 };
  for (const [at, trial] of trials.entries()) {
    const picture = trialPicture(base, trial, pixels);
    const tried: Tried = { kind: trial.kind, scale: trial.scale, read: {} };
    for (const name of readers) {
      const found = await READ[name](picture);
      const read = found === text;
      tried.read[name] = read;
      if (read) proof.read[name]! += 1;
      else if (found !== null) proof.misread += 1;
    }
    proof.trials.push(tried);
    if (progress?.(at + 1, trials.length) === false) return null;
    await pause?.();
  }
  return proof;
}

/** The faults of a code that was tried and measured; none is a pass. */
export function faultsOf(proof: ScanProof, measures: Omit<Measures, 'wrong'>): Fault[] {
  const { read, of } = readByBoth(proof);
  const any = Object.values(proof.read).some((count) => count > 0);
  const found = new Set<Fault>();
  if (!any) found.add('not read');
  if (proof.misread > 0) found.add('misread');
  if (!measures.darkOnLight) found.add('inverted');
  if (measures.finderFaults > 0) found.add('finder');
  if (Math.abs(measures.contrast) < GREY_STEP) found.add('contrast');
  if (measures.margin < QUIET_ZONE) found.add('margin');
  if (any && read * 24 < PASS_OF_24 * of) found.add('reads too little');
  return FAULTS.filter((fault) => found.has(fault));
}
