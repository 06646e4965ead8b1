export { drawSymbol, printedMeasures, QUIET_ZONE } from './draw';
export { symbolFor, type Level, type Symbol } from './symbol';
