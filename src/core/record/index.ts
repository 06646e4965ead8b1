export { isBlock, readBlock, readLabelled, recognise, recogniseLine, type Block } from './block';
export { clampCrop, squareOf, tooSmallFor, topCrop, wholeCrop, type PhotoNeed } from './crop';
export {
  differencesOf,
  firstChoice,
  isKnown,
  knownAs,
  marksOf,
  ownUid,
  withChosen,
  type Difference,
  type Known,
} from './compare';
export { dayNames, isZone, openAt, readHours, readSpans, shownHours, shownSpans, type Hours, type Span } from './hours';
export { labelIn } from './label';
export { keptInWords } from './kept';
export { readEmail, readLink, shownLink } from './link';
export { readName, saidParts, saidWhole, splitName, writtenName } from './name';
export { isPattern, readPattern, type Pattern } from './patterns';
export { getCountries, internationalForm, nationalForm, readPhone, telUri, type PhoneNumber } from './phone';
export { HashSchema, PictureSchema, type Picture } from './picture';
export { readDetail, TYPED_KINDS, type TypedKind } from './read-detail';
export { hostOf, purposeOf } from './purpose';
export * from './kinds';
export * from './record';
export { defaultLabel, shownValue } from './shown';
export { cleanLine, cleanText } from './text';
