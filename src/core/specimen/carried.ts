import type { Composition } from '@/core/card';
import { tagMemory } from '@/core/ndef';
import { liveCodeText } from '@/core/qr';
import { writeContactFile, writeFrozenContact } from '@/core/vcard';
import type { SpecimenOf } from './page';

/** The contact file of a draft, as recipients get it. */
export const specimenFile = (composition: Composition, { file }: Pick<SpecimenOf, 'file'>): string =>
  writeContactFile(composition, file);

/** The text that a code holds: its link, or the frozen contact. */
export const specimenCode = (composition: Composition, { hold, link }: Pick<SpecimenOf, 'hold' | 'link'>): string =>
  hold === 'live' && link ? liveCodeText(link) : writeFrozenContact(composition, 'code');

/** The bytes of a tag's memory, and the contact in it. */
export function specimenTag(
  composition: Composition,
  { hold, link }: Pick<SpecimenOf, 'hold' | 'link'>,
): { memory: Uint8Array; contact: string | null } {
  const contact = hold === 'live' ? null : writeFrozenContact(composition, 'tag');
  return { memory: tagMemory(link ?? '', contact), contact };
}
