export { writeLetter, type LetterParts, type WrittenLetter } from './letter';
export { fillTemplate } from './template';
