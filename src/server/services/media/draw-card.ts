import { createHash } from 'node:crypto';
import type { Composition } from '@/core/card';
import { FACE_SIZES, type FaceName } from '@/core/face';
import type { Language } from '@/core/language';
import { compute } from '@/server/compute';
import { files } from '@/server/files';
import type { BlockFile } from './block-files';
import { formOf } from './kept-forms';
import { pageBytes, type ShownPicture } from '@/server/services/publishing/load-published';

/** Counted up whenever faces are drawn in another way, so that what was kept of them is drawn anew. */
const DRAWING = 5;

/** What a face is drawn from. */
export type ToDraw = {
  organisationId: string;
  composition: Composition;
  photo: ShownPicture | null;
  logo: ShownPicture | null;
  logoOnBand: ShownPicture | null;
  files: ReadonlyMap<string, BlockFile>;
};

/** Names all that the faces of a card depend on, in 16 hexadecimal digits: what it says and shows, its look, and how we draw. */
export const drawingKey = ({ composition, photo, logo, logoOnBand }: ToDraw): string =>
  createHash('sha256')
    .update(JSON.stringify([DRAWING, composition, photo?.hash, logo?.hash, logoOnBand?.hash]))
    .digest('hex')
    .slice(0, 16);

/** One face of a card in a language, drawn in the compute pool. Errors: TOO_BUSY, TOO_LABORIOUS. */
export async function drawFace(
  card: ToDraw,
  name: FaceName,
  language: Language,
  format: 'svg' | 'jpeg' | 'webp',
  channel: 'page' | 'print' = 'page',
): Promise<{ bytes: Buffer; leftOut: string[]; cut: string[]; missing: string[]; smallestType: number }> {
  const { composition, photo, logo: usual, logoOnBand, files: known, organisationId } = card;
  const logo = (FACE_SIZES[name].form === 'back' && logoOnBand) || usual;
  const { ground } = composition.look;
  const file = ground.kind === 'picture' ? known.get(ground.picture.hash) : undefined;
  const input = {
    composition,
    photo: photo && ((await files().get(photo.whole)) ?? pageBytes(photo)),
    logo: logo && pageBytes(logo),
    ground: file ? await files().get(file.hash) : null,
    name,
    language,
    format,
    channel,
  };
  return compute('face', input, {
    of: organisationId,
    key: `${organisationId} ${drawingKey(card)} ${name} ${language} ${format} ${channel}`,
  });
}

/** The icon of a card on a phone's first screen. Errors: TOO_BUSY, TOO_LABORIOUS. */
export const drawIcon = (card: ToDraw): Promise<Buffer> =>
  compute(
    'icon',
    { composition: card.composition },
    { of: card.organisationId, key: `${card.organisationId} ${drawingKey(card)}` },
  );

/** A photo that fills a phone's width is 390 CSS pixels wide, two device pixels each: more of them cost more than they show. */
const BROAD_SIDE = 780;

/**
 * The photo as a browser of today takes it: a third lighter than the JPEG beside it, or `broad`, from the whole picture, where its layout
 * fills the page with it. Errors as {@link drawIcon}, STORE_UNAVAILABLE.
 */
export async function lightPhoto(organisationId: string, photo: ShownPicture, broad: boolean): Promise<Buffer> {
  const [form, known] = broad ? (['broad_avif', photo.broad] as const) : (['page_avif', photo.avif] as const);
  // Where the store has lost the whole picture the small one is shown, and kept under its own name.
  if (broad && !known && (await files().size(photo.whole)) === null) return lightPhoto(organisationId, photo, false);
  return formOf({ organisationId, picture: photo.whole, form, known }, async () => {
    const large = broad ? await files().get(photo.whole) : null;
    const input = large ? { bytes: large, side: BROAD_SIDE } : { bytes: pageBytes(photo) };
    return compute('lighter', { ...input, format: 'avif' }, { of: organisationId });
  });
}

/** A picture of a block, named as blocks name it, as a browser of today takes it. Errors as {@link lightPhoto}. */
export const lightPicture = (organisationId: string, picture: string, file: BlockFile): Promise<Buffer> =>
  formOf({ organisationId, picture, form: 'page_webp', known: file.webp ?? null }, async () => {
    const bytes = await files().get(file.hash);
    if (!bytes) throw new Error('a picture of a block is not in the file store');
    return compute('lighter', { bytes, format: 'webp' }, { of: organisationId });
  });
