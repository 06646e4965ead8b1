import { languagesOf, linesOn, type Channel, type Composition } from '@/core/card';
import { HOUSE_LOGO, houseLogo, logoGround, type HouseStyle } from '@/core/house';
import { nightLook, type Plates } from '@/core/look';
import type { Language } from '@/core/language';
import { pageParts, type PageParts } from '@/core/page';
import type { ContactFileContext } from '@/core/vcard';

/** Of a code or tag: the live one, which holds a link, or the frozen one, which holds a copy. */
export type Hold = 'live' | 'frozen';

/** What a specimen is made from. `link` is where a live code or tag leads, null while there is none. */
export type SpecimenOf = {
  channel: Channel;
  hold: Hold;
  link: string | null;
  /** Where the card as one picture lies, drawn from what is saved; null while nothing is. */
  drawn: string | null;
  file: ContactFileContext;
  /** What stands behind the logo where it would vanish. */
  plates?: Plates;
  /** The house style that the card shows parts of. */
  house: HouseStyle | null;
  /** The language that a card of several is shown in, and the instant at which (milliseconds, UTC). */
  language: Language | null;
  now: number;
};

const addressOf = (hash: string): string => `/api/pictures/${hash}`;

/** The language that a specimen's own words are in. */
export const languageOf = (composition: Composition, { language }: Pick<SpecimenOf, 'language'>): Language =>
  language ?? composition.language ?? 'en';

/** The page of a draft in its parts, dressed by its house style, as recipients get it; its links lead nowhere. */
export function specimenPage(
  composition: Composition,
  { language, now, drawn, house, plates }: Pick<SpecimenOf, 'language' | 'now' | 'drawn' | 'house' | 'plates'>,
): PageParts {
  const pictureOf = (kind: 'photo' | 'logo') => {
    const line = linesOn(composition, 'page').find(({ detail }) => detail.kind === kind);
    return line && 'picture' in line.detail ? line : null;
  };
  const [photo, logo] = [pictureOf('photo')?.detail, pictureOf('logo')?.detail];
  const atNight =
    house && pictureOf('logo')?.id === HOUSE_LOGO ? houseLogo(house, logoGround(nightLook(composition.look))) : null;
  return pageParts(composition, {
    contactFile: '#',
    taps: null,
    photo: photo && 'picture' in photo ? addressOf(photo.picture) : null,
    logo: logo && 'picture' in logo ? addressOf(logo.picture) : null,
    nightLogo: atNight && addressOf(atNight.hash),
    plates,
    canonical: null,
    language: languageOf(composition, { language }),
    languages: languagesOf(composition).map((each) => ({ language: each, href: '#' })),
    mapAt: () => '#',
    fileAt: (hash, what) => (what === 'picture' ? addressOf(hash) : `/api/films/${hash}`),
    drawn: drawn === null ? null : { picture: (format) => drawn.replace('*', format), link: '' },
    now,
  });
}
