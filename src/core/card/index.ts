export * from './block-content';
export * from './block-kinds';
export {
  BlockSchema,
  BlocksSchema,
  OpensSchema,
  WordsSchema,
  type BarButton,
  type Block,
  type Item,
  type Opens,
  type PageParts,
  type Video,
  type Words,
} from './blocks';
export { FIRST_AUDIENCES, LEFT_OUT, type Audience } from './audiences';
export * from './card';
export * from './channels';
export { changesSince, type Change } from './changes';
export {
  compose,
  NO_PARTS,
  detailOn,
  labelOf,
  linesOn,
  pictureOn,
  nameOn,
  squeeze,
  withheldFrom,
  withWording,
} from './compose';
export { applyEdits, cellOf, editsBetween, inverseOf, type Edit, type LineCell } from './edits';
export { freshBlock } from './fresh-block';
export {
  addedTicks,
  typedTicks,
  backToLayout,
  copiedLines,
  firstLines,
  firstTicks,
  NOWHERE,
  PAGE_AND_FILE,
  reconcile,
} from './first-ticks';
export { CODE_ALPHABET, codeFrom, previewFrom, readCode, readPreview } from './hand-out-code';
export { blockKey, languagesOf, linesIn, saidIn, wordKey, wordsOf } from './languages';
export { leavingOf, type Leaving } from './leaving';
export { partsOf } from './parts';
export { isPrivate, isWarned, privacyOf, type Privacy, type TypeOf } from './privacy';
export { PictureSchema, type Picture } from './picture';
export {
  AudiencePresetsSchema,
  AudienceSchema,
  CompositionSchema,
  LineSchema,
  LinesSchema,
  type ComposedLine,
  type Composition,
  type Draft,
  type Line,
  type Said,
  type Ticks,
} from './schema';
export { restoredDraft } from './restore';
export { wordsToSay, type WordToSay } from './words-to-say';
export { readAddress, skeletonOf, suggestAddress } from './short-address';
export { missingFrom, startingBlocks, startingLines, startOf, STARTS, type Start } from './starts';
