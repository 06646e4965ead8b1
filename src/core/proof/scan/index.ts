export { greyFrom, rgbaOf, type Grey } from './grey';
export { locate, type Found } from './locate';
export { painted, paintedGrey } from './paint';
export {
  byKind,
  faultsOf,
  FULL_PIXELS,
  PASS_OF_24,
  QUICK_PIXELS,
  readByBoth,
  tryCode,
  type Fault,
  type ScanProof,
  type Tried,
} from './prove';
export { MAIN_READERS, READ, READERS, type ReaderName } from './readers';
export { type Remedy } from './remedies';
export { repairOf, type Repair } from './repair';
export {
  baseOf,
  proveFound,
  proveStyled,
  remedyOf,
  type CodeReport,
  type FoundReport,
  type Spent,
  type Tested,
} from './report';
export {
  FULL_TRIALS,
  fullTrials,
  QUICK,
  TRIAL_KINDS,
  trialPicture,
  type Base,
  type Trial,
  type TrialKind,
} from './trials';
