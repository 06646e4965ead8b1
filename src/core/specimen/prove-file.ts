import type { Proof } from '@/core/proof';
import { proveContactFile } from '@/core/proof/contact-file';
import { writeContactFile } from '@/core/vcard';
import type { Held } from './prove';

/** The proof of the contact file of a draft: the very file is made and read back by a reader that did not write it. */
export const proveSpecimenFile = ({ composition, withheld, of }: Held): Proof =>
  proveContactFile(writeContactFile(composition, of.file), composition, withheld, of.file);
