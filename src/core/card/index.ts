export { AudiencePresetsSchema, FIRST_AUDIENCES, LEFT_OUT, type Audience } from './audiences';
export * from './card';
export { changesSince, type Change } from './changes';
export {
  compose,
  detailOn,
  ComposedLineSchema,
  CompositionSchema,
  labelOf,
  linesOn,
  nameOn,
  squeeze,
  withheldFrom,
  withWording,
  type ComposedLine,
  type Composition,
} from './compose';
export { applyEdits, cellOf, editsBetween, inverseOf, type Edit, type LineCell } from './edits';
export { backToLayout, firstLines, firstTicks, isPrivate, NOWHERE, reconcile } from './first-ticks';
export { CODE_ALPHABET, codeFrom, previewFrom, readCode, readPreview } from './hand-out-code';
export { PARTS, partsOf, type Part } from './parts';
export { readAddress, skeletonOf, suggestAddress } from './short-address';
export { missingFrom, startingLines, startOf, STARTS, type Start } from './starts';
