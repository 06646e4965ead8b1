export { readContactFile, type ImportedContact } from './read';
export { contactFileName, writeContactFile, type ContactFileContext, type VcardVersion } from './write';
