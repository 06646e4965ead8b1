export { type ContactFileContext, type EmbeddedPicture, type FallBack } from './from-card';
export { frozenCosts, writeFrozenContact } from './frozen';
export { jcardOf, type Jcard } from './jcard';
export { writeMeCard } from './mecard';
export {
  VERSIONS,
  type ContactCard,
  type Property,
  type ReadContact,
  type Warning,
  type VcardVersion,
} from './property';
export { createContactReader, readContacts, type ContactReader } from './reader';
export { readContactFile, recordFrom, type ImportedContact } from './to-record';
export {
  contactFileName,
  fallBacksOf,
  writeCardAsMeCard,
  writeContactFile,
  writeJcard,
  writeRead,
  writeRecord,
} from './write';
export { decodedAs } from './charset';
