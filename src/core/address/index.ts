export { CODE_ALPHABET, codeFrom, lastingFrom, previewFrom, readCode, readLasting, readPreview } from './hand-out-code';
export { readAddress, skeletonOf, suggestAddress } from './short-address';
