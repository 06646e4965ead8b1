import { drawFace, drawIcon, drawingKey, lightPhoto, lightPicture } from '@/server/services/media/draw-card';
import type { PublishedCard } from '@/server/services/publishing/load-published';
import { languagesAt } from './language';
import { drawnOutput, fillsWithPhoto, type Output } from './outputs';
import type { Asked } from './request';

/** What is made for a card in the compute pool when it is first asked for. */
export type Made = Extract<Asked['what'], { output: 'drawn' | 'icon' | 'light photo' | 'light file' }>;
const MADE = new Set<Asked['what']['output']>(['drawn', 'icon', 'light photo', 'light file']);
export const isMade = (what: Asked['what']): what is Made => MADE.has(what.output);

/** A picture made for a card; null where another one is meant. */
export function make(card: PublishedCard, what: Made): Promise<Output> | null {
  const { organisationId } = card;
  if (what.output === 'light photo')
    return what.hash === card.photo?.hash && (!what.broad || fillsWithPhoto(card.composition))
      ? lightPhoto(organisationId, card.photo, what.broad).then((bytes) => drawnOutput(bytes, 'avif'))
      : null;
  if (what.output === 'light file') {
    const file = card.files.get(what.hash);
    return file?.bytes === null
      ? lightPicture(organisationId, file.hash).then((bytes) => drawnOutput(bytes, 'webp'))
      : null;
  }
  if (what.key !== drawingKey(card)) return null;
  // Only what a page of the card names is drawn, or a stranger could have it drawn in every language there is.
  if (what.output === 'drawn' && !languagesAt(card).includes(what.language)) return null;
  return what.output === 'icon'
    ? drawIcon(card).then((bytes) => drawnOutput(bytes, 'png'))
    : drawFace(card, what.face, what.language, what.format).then(({ bytes }) => drawnOutput(bytes, what.format));
}
