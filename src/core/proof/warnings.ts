import { linesOn, type Composition } from '@/core/card';
import { ADDRESS_BOOKS, COMMON_PRACTICE, FAMILY_WARNINGS, FROM_MEMORY } from '@/core/words';
import type { ContactFileContext } from '@/core/vcard';
import type { Warning } from './proof';

/** A note longer than this is more than one line of a phone. */
const ONE_LINE = 80;
const LARGE_PHOTO = 270_000;

/** What families of address books make of such a file: nothing that fails, all worth knowing before it goes out. */
export function warningsFor(file: string, composition: Composition, context: ContactFileContext): Warning[] {
  const lines = linesOn(composition, 'file');
  const notes = lines
    .filter(({ detail }) => detail.kind === 'note')
    .map(({ detail }) => ('text' in detail ? detail.text : ''));
  const warnings: Warning[] = [];
  const warn = (family: keyof typeof ADDRESS_BOOKS, finding: keyof typeof FAMILY_WARNINGS, source: string) =>
    warnings.push({ family: ADDRESS_BOOKS[family], finding: FAMILY_WARNINGS[finding], source });
  if (notes.join('\n').length > ONE_LINE) warn('phones', 'longNote', COMMON_PRACTICE);
  if (/X-ABLabel/.test(file)) warn('office', 'noLabels', FROM_MEMORY);
  if (lines.filter(({ detail }) => detail.kind === 'address').length > 2) warn('office', 'oneAddress', FROM_MEMORY);
  if (context.version === '4.0') warn('office', 'version4', COMMON_PRACTICE);
  if (context.version === '3.0' && /[^\u0000-\u007f]/.test(file)) warn('old', 'utf8', FROM_MEMORY);
  if ((context.photo?.base64.length ?? 0) > LARGE_PHOTO) warn('old', 'photoLarge', FROM_MEMORY);
  return warnings;
}
