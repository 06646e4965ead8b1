import { linesOn, squeeze, type Composition } from '@/core/card';
import { shownValue } from '@/core/record';
import { figure, proofOf, type Proof } from './proof';

/** Initial congestion window of ten segments at an MSS of 1,460 (RFC 6928): what one round trip carries, in bytes. */
export const ONE_ROUND_TRIP = 14_600;

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
  const text = squeeze(textOf(html));
  const lines = linesOn(composition, 'page');
  const found = lines.filter((line) => text.includes(squeeze(shownValue(line.detail))));
  const leaked = withheld.filter((value) => text.includes(squeeze(value)));
  const outside = (html.match(/(?:src|srcset|action)="(?:https?:)?\/\/[^"]*"/g) ?? []).length;
  return proofOf([
    {
      name: 'ticked lines',
      passed: found.length === lines.length,
      finding: `${found.length + 1} of ${lines.length + 1} ticked lines read back.`,
    },
    {
      name: 'unticked lines',
      passed: leaked.length === 0,
      finding:
        leaked.length === 0
          ? `None of ${withheld.length} unticked values in it.`
          : `${leaked.length} unticked values still appear on it.`,
    },
    {
      name: 'other hosts',
      passed: outside === 0,
      finding: outside === 0 ? 'Asks no other host.' : `Asks another host ${outside} times.`,
    },
    ...(compressedBytes === null
      ? []
      : [
          {
            name: 'weight',
            passed: compressedBytes <= ONE_ROUND_TRIP,
            finding: `${figure(compressedBytes)} of ${figure(ONE_ROUND_TRIP)} B`,
          },
        ]),
  ]);
}

/** Visible text and attribute values of the body and head, without the style sheet and the script. */
function textOf(html: string): string {
  const entities: Record<string, string> = { amp: '&', lt: '<', gt: '>', quot: '"' };
  return html
    .replace(/<style>.*?<\/style>|<script>.*?<\/script>/gs, ' ')
    .replace(/<\/?[a-z][^>]*?((?:href|content)="[^"]*")?[^>]*>/gi, ' $1 ')
    .replace(/&#(\d+);/g, (_, code: string) => String.fromCodePoint(Number(code)))
    .replace(/&(amp|lt|gt|quot);/g, (_, name: string) => entities[name]!);
}
