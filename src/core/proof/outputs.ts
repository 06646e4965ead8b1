import type { Finding } from '@/core/findings';
import {
  languagesOf,
  linesIn,
  saidIn,
  withheldFrom,
  withheldFromAll,
  type Composition,
  type Line,
  type Words,
} from '@/core/card';
import { withoutHouse, type HouseStyle } from '@/core/house';
import { renderPage } from '@/core/page';
import type { PersonRecord } from '@/core/record';
import { VERSIONS, writeContactFile, type ContactFileContext, type VcardVersion } from '@/core/vcard';
import { proveContactFile } from './contact-file';
import { provePictures } from './pictures';
import { CONTRAST } from './page';
import { provePage } from './prove-page';
import type { Proof } from './proof';

/** A card with all that its outputs are made from. */
export type Outputs = {
  /** The record, and the card's lines held against it: what must not go out follows from them. */
  person: PersonRecord;
  lines: Line[];
  words: Words;
  /** Country (ISO 3166-1) of the organisation, for numbers in other spellings. */
  country: string;
  /** As recipients get it: dressed by this house style, where there is one. */
  shown: Composition;
  house: HouseStyle | null;
  /** What its contact file says besides its lines, by version. */
  fileContexts: Record<VcardVersion, ContactFileContext>;
  placement: string;
  /** The pictures of its lines, ticked anywhere, by the hash that lines name them by: the hash that pages name, base64 in files. */
  pictures: Record<string, { page: string; file: string }>;
  /** The hashes of the pictures that its page is given, null of none. */
  onPage: { photo: string | null; logo: string | null };
  /** Milliseconds, UTC. */
  now: number;
  /** Bytes of a page at gzip level 6. */
  compressed: (html: string) => number;
};

/** What kept an output from passing: which check, and what it found. */
export type FailedCheck = { channel: 'page' | 'contact file'; check: string; finding: Finding };

/** The addresses that a page names while it is proven; they lead nowhere. */
const AT = '/c/proof';

/** Where our own words follow the recipient's browser: they are constants, so one language of either way of writing stands for all. */
const EITHER_WAY = ['en', 'ar'];

/**
 * Makes every output that a recipient may be given and proves it: the page in each language, the contact file in each version, and
 * before 4.0, which carries all languages in one file, in each language as well.
 */
export function* outputProofs(of: Outputs): Generator<{ channel: 'page' | 'contact file'; proof: Proof }> {
  const { person, lines, words, country, shown, house } = of;
  const offered = languagesOf(shown);
  for (const language of offered.length > 0 ? offered : EITHER_WAY) {
    const html = renderPage(shown, {
      contactFile: `${AT}.vcf`,
      taps: `${AT}/tap`,
      photo: of.onPage.photo && `${AT}/photo-${of.onPage.photo}.jpg`,
      logo: of.onPage.logo && `${AT}/logo-${of.onPage.logo}.png`,
      // With all that the head says of the card: data for programs and link previews leave too.
      canonical: `https://cards.invalid${AT}`,
      fileAt: (hash) => `${AT}/file-${hash}`,
      mapAt: (line) => `${AT}/map-${line}`,
      code: `${AT}/code.svg`,
      drawn: { picture: (format) => `${AT}/picture.${format}`, link: `${AT}/link.jpg` },
      now: of.now,
      placement: of.placement,
      language,
      languages: offered.map((each) => ({ language: each, href: `${AT}?lang=${each}` })),
    });
    const withheld = withheldFrom(person, linesIn(lines, person, words, language), 'page', country);
    const kept = withoutHouse(withheld, shown.look, house, 'page');
    yield { channel: 'page', proof: provePage(html, of.compressed(html), saidIn(shown, language), kept) };
    yield { channel: 'page', proof: provePictures(of, 'page', html) };
  }
  for (const version of VERSIONS) {
    const context = of.fileContexts[version];
    for (const language of version === '4.0' || offered.length === 0 ? [null] : offered) {
      const said = language ? saidIn(shown, language) : shown;
      const withheld = language
        ? withheldFrom(person, linesIn(lines, person, words, language), 'file', country)
        : withheldFromAll(person, { lines, words }, offered, 'file', country);
      const kept = withoutHouse(withheld, shown.look, house, 'file');
      const file = writeContactFile(said, context);
      yield { channel: 'contact file', proof: proveContactFile(file, said, kept, context) };
      yield { channel: 'contact file', proof: provePictures(of, 'file', file.replace(/\r\n[ \t]/g, '')) };
    }
  }
}

/**
 * The first thing of any output that keeps a card from going out; null where nothing does. Contrast is judged elsewhere: it may be
 * overridden by who may.
 */
export function firstFailing(of: Outputs): FailedCheck | null {
  for (const { channel, proof } of outputProofs(of)) {
    const worst = proof.checks.find(({ passed, name }) => !passed && name !== CONTRAST);
    if (worst) return { channel, check: worst.name, finding: worst.finding };
  }
  return null;
}
