export type { CodeAsked, CodeTold } from './asked';
export { greyFrom, rgbaOf, type Grey } from './grey';
export { locate, type Found } from './locate';
export { painted, paintedGrey } from './paint';
export { faultsOf, FULL_PIXELS, QUICK_PIXELS, tryCode } from './prove';
export { READ } from './readers';
export { type Remedy } from './remedies';
export { repairOf, type Repair } from './repair';
export {
  baseOf,
  proveFound,
  proveStyled,
  readsBack,
  remedyOf,
  type CodeReport,
  type FoundReport,
  type Spent,
  type Tested,
} from './report';
export * from './shape';
export { FULL_TRIALS, fullTrials, QUICK, trialPicture, type Base, type Trial } from './trials';
