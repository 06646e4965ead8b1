import type { Channel, Composition } from '@/core/card';
import { tagMemory } from '@/core/ndef';
import { renderPage } from '@/core/page';
import { liveCodeText } from '@/core/qr/room';
import { writeFrozenContact, type ContactFileContext } from '@/core/vcard';

/** Of a code or tag: the live one, which holds a link, or the frozen one, which holds a copy. */
export type Hold = 'live' | 'frozen';

/** What a specimen is made from. `link` is where a live code or tag leads, null while there is none. */
export type SpecimenOf = {
  channel: Channel;
  hold: Hold;
  photo: string | null;
  logo: string | null;
  link: string | null;
  file: ContactFileContext;
};

/** The page of a draft, as recipients get it; its links lead nowhere. */
export const specimenPage = (composition: Composition, { photo, logo }: Pick<SpecimenOf, 'photo' | 'logo'>): string =>
  renderPage(composition, {
    contactFile: '#',
    taps: null,
    photo,
    logo,
    canonical: null,
    language: composition.language ?? 'en',
  });

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
