// What a proof of codes is told in, apart from what makes it: screens need no reader.

/** The readers of codes, none of which wrote any: zxing-cpp, the reader of the package `qr`, which stands near it, and zbar, of another ancestry. */
export const READERS = ['zxing', 'qr', 'zbar'] as const;
export type ReaderName = (typeof READERS)[number];
/** Those that a pass asks of. */
export const MAIN_READERS = ['zxing', 'qr'] as const;

/** What is done to a code's picture, by kind: as people would name it. */
export const TRIAL_KINDS = ['sharp', 'out of focus', 'dim', 'at an angle', 'glare and grain', 'far'] as const;
export type TrialKind = (typeof TRIAL_KINDS)[number];

/** What one picture gave: whether each reader that was asked read just the text. */
export type Tried = { kind: TrialKind; scale: number; read: Partial<Record<ReaderName, boolean>> };

/** What was found of a code by trying: each picture's outcome, and how many each reader read. */
export type ScanProof = {
  trials: Tried[];
  /** Readers that were asked, with the number of pictures that each read. */
  read: Partial<Record<ReaderName, number>>;
  /** A reader that read something else than the text: it never may. */
  misread: number;
};

/** Of the quick proof's 24 pictures each main reader reads at least so many, or it fails. */
export const PASS_OF_24 = 22;

/** The fewest pictures that any main reader read, of how many. */
export function readByBoth({ trials, read }: ScanProof): { read: number; of: number } {
  return { read: Math.min(...MAIN_READERS.map((name) => read[name] ?? 0)), of: trials.length };
}

/** What keeps a code from passing, by code, the worst first. */
export const FAULTS = ['not read', 'misread', 'inverted', 'finder', 'contrast', 'margin', 'reads too little'] as const;
export type Fault = (typeof FAULTS)[number];

/** Each kind of trial with its outcomes, in the order of {@link TRIAL_KINDS}. */
export const byKind = ({ trials }: ScanProof): { kind: TrialKind; trials: Tried[] }[] =>
  TRIAL_KINDS.map((kind) => ({ kind, trials: trials.filter((each) => each.kind === kind) }));
