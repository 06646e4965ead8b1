import { linesOn, squeeze, wordsOf, type Composition } from '@/core/card';
import { LANGUAGES, PROOF } from '@/core/messages';
import { shownValue } from '@/core/record';
import { fails, pairsInUse } from '@/core/look';
import { proofOf, type Check, type Proof } from './proof';

/** Initial congestion window of ten segments at an MSS of 1,460 (RFC 6928): what one round trip carries, in bytes. */
export const ONE_ROUND_TRIP = 14_600;

/** The check that whoever may can override, since eyes and brands differ; no other can be. */
export const CONTRAST = 'contrast';

/**
 * The proof of a page: `html` as it is served, `compressedBytes` its size with headers at gzip level 6, or null where
 * nothing was compressed (in the browser). The text is read back by taking the mark-up away again.
 */
export function provePage(
  html: string,
  compressedBytes: number | null,
  composition: Composition,
  withheld: string[],
): Proof {
  const text = piecesOf(html).map(squeeze).join('\n');
  const language = LANGUAGES.find((each) => html.includes(`<html lang="${each}"`)) ?? 'en';
  const lines = linesOn(composition, 'page');
  const found = lines.filter((line) => text.includes(squeeze(shownValue(line.detail, language))));
  const words = composition.blocks.filter(({ kind }) => kind !== 'action bar').flatMap(wordsOf);
  const said = words.filter(({ text: wanted }) => text.includes(squeeze(wanted)));
  const leaked = withheld.filter((value) => text.includes(squeeze(value)));
  const outside = (html.match(/(?:src|srcset|action)="(?:https?:)?\/\/[^"]*"/g) ?? []).length;
  return proofOf([
    {
      name: 'ticked lines',
      passed: found.length === lines.length,
      finding: PROOF.tickedLines(found.length + 1, lines.length + 1),
    },
    {
      name: 'unticked lines',
      passed: leaked.length === 0,
      finding: leaked.length === 0 ? PROOF.noneOf(withheld.length) : PROOF.stillThere(leaked.length),
    },
    {
      name: 'blocks',
      passed: said.length === words.length,
      finding: PROOF.blocks(said.length, words.length),
    },
    contrastOf(composition),
    {
      name: 'other hosts',
      passed: outside === 0,
      finding: outside === 0 ? PROOF.noOtherHost : PROOF.otherHosts(outside),
    },
    ...(compressedBytes === null
      ? []
      : [
          {
            name: 'weight',
            passed: compressedBytes <= ONE_ROUND_TRIP,
            finding: PROOF.bytesOf(compressedBytes, ONE_ROUND_TRIP),
          },
        ]),
  ]);
}

/** Every pair of colours that the look puts together, by day and night (WCAG 2.2, 1.4.3 and 1.4.11). */
function contrastOf({ look }: Composition): Check {
  const pairs = pairsInUse(look).map(({ pair }) => pair);
  const failing = pairs.filter(fails);
  const worst = (failing.length > 0 ? failing : pairs).reduce((low, each) =>
    each.ratio / each.needs < low.ratio / low.needs ? each : low,
  );
  return {
    name: CONTRAST,
    passed: failing.length === 0,
    finding: PROOF.contrast(pairs.length - failing.length, pairs.length, worst.ratio, worst.needs),
  };
}

/** An address as it reads once it is opened: what is filled into a mail, a text or a chat is encoded in it (RFC 3986 2.1, and `+` in forms). */
function decoded(value: string): string {
  try {
    return decodeURIComponent(value.replace(/\+/g, ' '));
  } catch {
    return value;
  }
}

/**
 * Visible text and attribute values of body and head, without the style sheet and the script, piece by piece: what two
 * neighbours happen to spell together is no value of either.
 */
function piecesOf(html: string): string[] {
  const entities: Record<string, string> = { amp: '&', lt: '<', gt: '>', quot: '"' };
  const pieces = html
    .replace(/<style>.*?<\/style>|<script>.*?<\/script>/gs, '<>')
    .replace(
      /<\/?[a-z!][^>]*>/gi,
      (tag) =>
        `<>${[...tag.matchAll(/(?:href|content|alt|aria-label)="([^"]*)"/g)].map((found) => found[1]).join('<>')}<>`,
    )
    .split('<>');
  // Each entity once: what somebody typed as an entity was escaped, and stays what they typed.
  const read = pieces.map((piece) =>
    piece.replace(/&(?:#(\d+)|(amp|lt|gt|quot));/g, (_, code?: string, name?: string) =>
      code ? String.fromCodePoint(Number(code)) : entities[name!]!,
    ),
  );
  return [...read, ...read.filter((piece) => /%[0-9a-f]{2}|\+/i.test(piece)).map(decoded)];
}
