export { belongings, budgetOf, type Budget } from './budget';
export { symbolInStyle } from './dress';
export {
  codeSvg,
  coveredBy,
  drawCode,
  DRAWING,
  drawSymbol,
  markBox,
  QUIET_ZONE,
  type Drawing,
  type Outlines,
  type Shape,
} from './draw';
export { distanceMm, FINEST_MM, smallestMm, TEN_TO_ONE, widthForMm } from './print-size';
export { CODE_BYTES, CODE_BYTES_AT_25_MM, liveCodeText } from './room';
export * from './style';
export { symbolFor, TooLong, type Symbol } from './symbol';
export { LEVELS, type Level } from './tables';
