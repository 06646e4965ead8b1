import { Refusal } from '@/core/errors';
import { drawFace, drawIcon, drawingKey, lightPhoto, lightPicture } from '@/server/services/media/draw-card';
import { mailPicture, type MailedPicture } from '@/server/services/media/mail-picture';
import { drawingKept } from '@/server/services/media/kept-forms';
import type { PublishedCard } from '@/server/services/publishing/load-published';
import { languagesAt } from './language';
import { drawnOutput, fillsWithPhoto, type Output } from './outputs';
import type { Asked } from './request';

/** What is made for a card in the compute pool when it is first asked for. */
export type Made = Extract<Asked['what'], { output: 'drawn' | 'icon' | 'light photo' | 'light file' | 'signed logo' }>;
const MADE = new Set<Asked['what']['output']>(['drawn', 'icon', 'light photo', 'light file', 'signed logo']);
export const isMade = (what: Asked['what']): what is Made => MADE.has(what.output);

/** Drawings of what is published are kept; those of a draft are not, which changes as one looks. */
const kept = (card: PublishedCard, name: string, draw: () => Promise<Buffer>): Promise<Buffer> =>
  card.address === null ? draw() : drawingKept(card, { name, key: drawingKey(card) }, draw);

async function logoOf(organisationId: string, logo: MailedPicture): Promise<Buffer> {
  const bytes = await mailPicture(organisationId, logo);
  if (!bytes) throw new Refusal({ code: 'STORE_UNAVAILABLE' });
  return bytes;
}

/** What makes a picture for a card; null where another one is meant. */
export function make(card: PublishedCard, what: Made): (() => Promise<Output>) | null {
  const { organisationId, photo } = card;
  if (what.output === 'light photo')
    return photo && what.hash === photo.hash && (!what.broad || fillsWithPhoto(card.composition))
      ? async () => drawnOutput(await lightPhoto(organisationId, photo, what.broad), 'avif')
      : null;
  if (what.output === 'light file') {
    const file = card.files.get(what.hash);
    return file?.bytes === null
      ? async () => drawnOutput(await lightPicture(organisationId, what.hash, file), 'webp')
      : null;
  }
  if (what.output === 'signed logo') {
    const logo = card.signature?.logo;
    return logo && logo.hash === what.hash ? async () => drawnOutput(await logoOf(organisationId, logo), 'png') : null;
  }
  if (what.key !== drawingKey(card)) return null;
  // Only what a page of the card names is drawn, or a stranger could have it drawn in every language there is.
  if (what.output === 'drawn' && !languagesAt(card).includes(what.language)) return null;
  if (what.output === 'icon') return async () => drawnOutput(await kept(card, 'icon', () => drawIcon(card)), 'png');
  const { face, language, format } = what;
  const draw = async () => (await drawFace(card, face, language, format)).bytes;
  return async () => drawnOutput(await kept(card, `${face} ${language} ${format}`, draw), format);
}
