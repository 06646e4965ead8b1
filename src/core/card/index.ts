export * from './blocks/block-content';
export * from './blocks/block-kinds';
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
} from './blocks/blocks';
export { FIRST_AUDIENCES, LEFT_OUT, type Audience } from './audiences';
export * from './card';
export * from './channels';
export {
  compose,
  composeDraft,
  composeToday,
  NO_PARTS,
  detailOn,
  labelOf,
  linesOn,
  pictureOn,
  nameOn,
  squeeze,
  withheldFrom,
  withheldFromAll,
} from './compose';
export { applyEdits, cellOf, editsBetween, inverseOf, type CardCell, type Edit, type LineCell } from './edits';
export { addLines, editCard, editCell, editTicks, moveLine, removeLine } from './line-edits';
export { freshBlock } from './blocks/fresh-block';
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
export { languagesAmong, languagesOf, linesIn, saidIn, wordsOf } from './languages';
export { leavingOf, type Leaving } from './leaving';
export { partsOf } from './parts';
export { isPrivate, isWarned, privacyOf, PRIVACIES, type Privacy, type TypeOf } from './privacy';
export { same } from './same';
export {
  AudiencePresetsSchema,
  AudienceSchema,
  CompositionSchema,
  LinesSchema,
  type ComposedLine,
  type Composition,
  type Draft,
  type Line,
  type Said,
  type Ticks,
} from './schema';
export { wordsToSay, type WordToSay } from './words-to-say';
export { missingFrom, startingBlocks, startingLines, startOf, STARTS, type Start } from './starts';
