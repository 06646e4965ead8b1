import type { Caution } from '@/core/findings';
import { linesOn, type Composition } from '@/core/card';
import type { ContactFileContext } from '@/core/vcard';

/** A note longer than this is more than one line of a phone. */
const ONE_LINE = 80;
const LARGE_PHOTO = 270_000;

/** What families of address books make of such a file: nothing that fails, all worth knowing before it goes out. */
export function cautionsFor(file: string, composition: Composition, context: ContactFileContext): Caution[] {
  const lines = linesOn(composition, 'file');
  const notes = lines
    .filter(({ detail }) => detail.kind === 'note')
    .map(({ detail }) => ('text' in detail ? detail.text : ''));
  const cautions: Caution[] = [];
  if (notes.join('\n').length > ONE_LINE) cautions.push({ family: 'phones', code: 'LONG_NOTE' });
  if (/X-ABLabel/.test(file)) cautions.push({ family: 'office', code: 'NO_LABELS' });
  if (lines.filter(({ detail }) => detail.kind === 'address').length > 2)
    cautions.push({ family: 'office', code: 'TWO_ADDRESSES' });
  if (context.version === '4.0') cautions.push({ family: 'office', code: 'NO_VERSION_4' });
  if (context.version === '3.0' && /[^\u0000-\u007f]/.test(file)) cautions.push({ family: 'old', code: 'LETTERS' });
  if ((context.photo?.base64.length ?? 0) > LARGE_PHOTO) cautions.push({ family: 'old', code: 'PHOTO_LARGE' });
  return cautions;
}
