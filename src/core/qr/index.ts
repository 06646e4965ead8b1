export { budgetOf, type Budget } from './budget';
export { symbolInStyle } from './dress';
export {
  codeSvg,
  coveredBy,
  drawCode,
  DRAWING,
  drawSymbol,
  QUIET_ZONE,
  sideOf,
  type Drawing,
  type Outlines,
  type Shape,
} from './draw';
export {
  distanceMm,
  FINEST_MM,
  FINEST_VERSION,
  pixelsPerMmFrom,
  smallestMm,
  TEN_TO_ONE,
  widthForMm,
} from './print-size';
export { CODE_BYTES, CODE_BYTES_AT_25_MM, liveCodeText } from './room';
export * from './style';
export { symbolFor, TooLong, type Symbol } from './symbol';
export { type Level } from './tables';
