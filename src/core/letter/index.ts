export { writeLetter, type LetterParts, type WrittenLetter } from './letter';
export { wordsAbove } from './above';
export { fillTemplate } from './template';
