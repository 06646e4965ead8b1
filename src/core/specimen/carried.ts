import { pictureOn, type Composition } from '@/core/card';
import { tagMemory } from '@/core/ndef';
import { liveCodeText } from '@/core/qr';
import { belowIn, FIRST_SIGNATURE, PHOTO_SIDE, writeSignature, type Signature } from '@/core/signature';
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
  return { memory: tagMemory({ link: link ?? '', contact }), contact };
}

/** The signature of a draft as new messages end in it, with its face and without its logo, whose size the studio does not know. */
export function specimenSignature(
  composition: Composition,
  { link, house }: Pick<SpecimenOf, 'link' | 'house'>,
): Signature {
  const { layout, message } = house?.signature?.options ?? FIRST_SIGNATURE;
  const photo = pictureOn(composition, 'photo', 'signature');
  return writeSignature(
    composition,
    { layout, parts: { ...message, link: link !== null } },
    {
      language: composition.language ?? 'en',
      link: link ?? '',
      photo: photo ? { src: `/api/pictures/${photo}`, width: PHOTO_SIDE, height: PHOTO_SIDE } : null,
      logo: null,
      below: belowIn(house?.signature, composition.language ?? 'en'),
    },
  );
}
