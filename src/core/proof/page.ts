import { linesOn, squeeze, wordsOf, type Composition } from '@/core/card';
import { say, TEXTS } from '@/core/messages';
import { OUR_LANGUAGES } from '@/core/language';
import { shownValue } from '@/core/record';
import { measureContrast } from '@/core/look';
import { proofOf, type Check, type Proof } from './proof';
import type { ReadPage } from './read-page';

/** All that a page says by itself. */
const OURS = new Set(OUR_LANGUAGES.flatMap((language) => TEXTS.map((text) => squeeze(say(text, language)))));

/** Initial congestion window of ten segments at an MSS of 1,460 (RFC 6928): what one round trip carries, in bytes. */
export const ONE_ROUND_TRIP = 14_600;

/** The check that whoever may can override, since eyes and brands differ; no other can be. */
export const CONTRAST = 'contrast';

/**
 * The proof of a page: `page` is every text, attribute, style and script that a parser which is not ours found in what is served,
 * `compressedBytes` its size with headers at gzip level 6, or null where nothing was compressed.
 */
export function proveRead(
  page: ReadPage,
  compressedBytes: number | null,
  composition: Composition,
  withheld: string[],
): Proof {
  const pieces = page.pieces.map(squeeze);
  const text = pieces.join('\n');
  const language = page.language || 'en';
  const lines = linesOn(composition, 'page');
  const found = lines.filter((line) => text.includes(squeeze(shownValue(line.detail, language))));
  const words = composition.blocks.filter(({ kind }) => kind !== 'action bar').flatMap(wordsOf);
  const said = words.filter(({ text: wanted }) => text.includes(squeeze(wanted)));
  // A nickname may be a word of ours: what the page itself says gives nobody away.
  const theirs = pieces.filter((piece) => !OURS.has(piece)).join('\n');
  const leaked = withheld.filter((value) => theirs.includes(squeeze(value)));
  const outside = page.outside.length;
  return proofOf([
    {
      name: 'ticked lines',
      passed: found.length === lines.length,
      finding: { code: 'LINES_READ', read: found.length + 1, of: lines.length + 1, missing: [] },
    },
    {
      name: 'unticked lines',
      passed: leaked.length === 0,
      finding: { code: 'UNTICKED', still: leaked.length, of: withheld.length },
    },
    {
      name: 'blocks',
      passed: said.length === words.length,
      finding: { code: 'BLOCKS_READ', read: said.length, of: words.length },
    },
    contrastOf(composition),
    {
      name: 'other hosts',
      passed: outside === 0,
      finding: { code: 'OTHER_HOSTS', times: outside },
    },
    ...(compressedBytes === null
      ? []
      : [
          {
            name: 'weight',
            passed: compressedBytes <= ONE_ROUND_TRIP,
            finding: { code: 'FITS' as const, bytes: compressedBytes, room: ONE_ROUND_TRIP },
          },
        ]),
  ]);
}

/** Every pair of colours that the look puts together, by day and night. */
function contrastOf({ look }: Composition): Check {
  const { of, failing, worst, needs } = measureContrast(look);
  return { name: CONTRAST, passed: failing === 0, finding: { code: 'CONTRAST', read: of - failing, of, worst, needs } };
}
