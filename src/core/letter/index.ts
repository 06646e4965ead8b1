export { writeLetter, type LetterParts, type WrittenLetter } from './letter';
export { fillTemplate, PLACES, type Place } from './template';
