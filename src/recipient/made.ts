import { drawFace, drawIcon, drawingKey, lightPhoto, lightPicture } from '@/server/services/media/draw-card';
import type { PublishedCard } from '@/server/services/publishing/load-published';
import { languagesAt } from './language';
import { drawnOutput, fillsWithPhoto, type Output } from './outputs';
import type { Asked } from './request';

/** What is made for a card in the compute pool when it is first asked for. */
export type Made = Extract<Asked['what'], { output: 'drawn' | 'icon' | 'light photo' | 'light file' }>;
const MADE = new Set<Asked['what']['output']>(['drawn', 'icon', 'light photo', 'light file']);
export const isMade = (what: Asked['what']): what is Made => MADE.has(what.output);

/** What makes a picture for a card; null where another one is meant. */
export function make(card: PublishedCard, what: Made): (() => Promise<Output>) | null {
  const { organisationId, photo } = card;
  if (what.output === 'light photo')
    return photo && what.hash === photo.hash && (!what.broad || fillsWithPhoto(card.composition))
      ? async () => drawnOutput(await lightPhoto(organisationId, photo, what.broad), 'avif')
      : null;
  if (what.output === 'light file') {
    const file = card.files.get(what.hash);
    return file?.bytes === null ? async () => drawnOutput(await lightPicture(organisationId, file.hash), 'webp') : null;
  }
  if (what.key !== drawingKey(card)) return null;
  // Only what a page of the card names is drawn, or a stranger could have it drawn in every language there is.
  if (what.output === 'drawn' && !languagesAt(card).includes(what.language)) return null;
  return what.output === 'icon'
    ? async () => drawnOutput(await drawIcon(card), 'png')
    : async () => drawnOutput((await drawFace(card, what.face, what.language, what.format)).bytes, what.format);
}
