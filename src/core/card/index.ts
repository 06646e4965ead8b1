export * from './card';
export { changesSince, type Change } from './changes';
export {
  compose,
  ComposedLineSchema,
  CompositionSchema,
  labelOf,
  linesOn,
  squeeze,
  withheldFrom,
  withWording,
  type ComposedLine,
  type Composition,
} from './compose';
export { firstLines, firstTicks, isPrivate, reconcile } from './first-ticks';
export { CODE_ALPHABET, codeFrom, readCode } from './hand-out-code';
export { readAddress, skeletonOf, suggestAddress } from './short-address';
