export { drawSymbol, QUIET_ZONE } from './draw';
export { CODE_BYTES, CODE_BYTES_AT_25_MM, liveCodeText } from './room';
export { symbolFor, type Symbol } from './symbol';
export type { Level } from './tables';
