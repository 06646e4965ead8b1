import { languagesOf, type Channel, type Composition } from '@/core/card';
import type { HouseStyle } from '@/core/house';
import type { Language } from '@/core/messages';
import { renderPage } from '@/core/page';
import type { ContactFileContext } from '@/core/vcard';

/** Of a code or tag: the live one, which holds a link, or the frozen one, which holds a copy. */
export type Hold = 'live' | 'frozen';

/** What a specimen is made from. `link` is where a live code or tag leads, null while there is none. */
export type SpecimenOf = {
  channel: Channel;
  hold: Hold;
  photo: string | null;
  logo: string | null;
  link: string | null;
  /** Where the card as one picture lies, drawn from what is saved; null while nothing is. */
  drawn: string | null;
  file: ContactFileContext;
  /** The house style that the card shows parts of. */
  house: HouseStyle | null;
  /** The language that a card of several is shown in, and the instant at which (milliseconds, UTC). */
  language: Language | null;
  now: number;
};

/** The page of a draft, as recipients get it; its links lead nowhere. */
export const specimenPage = (
  composition: Composition,
  { photo, logo, language, now, drawn }: Pick<SpecimenOf, 'photo' | 'logo' | 'language' | 'now' | 'drawn'>,
): string =>
  renderPage(composition, {
    contactFile: '#',
    taps: null,
    photo,
    logo,
    canonical: null,
    language: language ?? composition.language ?? 'en',
    languages: languagesOf(composition).map((each) => ({ language: each, href: '#' })),
    fileAt: (hash, what) => (what === 'picture' ? `/api/pictures/${hash}` : `/api/films/${hash}`),
    drawn: drawn === null ? null : { picture: (format) => drawn.replace('*', format), link: '' },
    now,
  });
