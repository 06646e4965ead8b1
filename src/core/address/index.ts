export { CODE_ALPHABET, codeFrom, previewFrom, readCode, readPreview } from './hand-out-code';
export { readAddress, skeletonOf, suggestAddress } from './short-address';
