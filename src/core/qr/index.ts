export { drawSymbol, QUIET_ZONE } from './draw';
export { symbolFor, type Level, type Symbol } from './symbol';
