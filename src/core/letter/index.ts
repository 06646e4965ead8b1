export { writeLetter, type LetterParts, type WrittenLetter } from './letter';
