export type { CodeAsked, CodeTold } from './asked';
export { greyFrom, shrunk, type Grey } from './grey';
export { locate, type Found } from './locate';
export { painted, paintedGrey } from './paint';
export { FULL_PIXELS, tryCode } from './prove';
export { findCodes, READ } from './readers';
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
export { fullTrials, type Base, type Trial } from './trials';
