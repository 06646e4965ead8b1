import sharp from 'sharp';
import type { Composition } from '@/core/card';
import { Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { insertPicture, picture, record } from '@/server/db/records';
import { inTenant, type Tx } from '@/server/db/pool';
import { files } from '@/server/files';
import { looksLikeSvg, sanitiseSvg } from '@/server/files/svg';
import type { Actor } from './actor';
import { authorise } from './authorise';

/** A page shows a face at 112 CSS pixels, three device pixels each. */
const PAGE_SIDE = 336;
/** Address books show a face at about 300 pixels; 20 KB keep a contact file quick on a poor connection (common practice). */
const FILE_SIDE = 300;
const FILE_BYTES = 20_000;

/** What sharp may decode: the formats of phones, cameras and drawing programs. Whatever else it can read is refused. */
const FORMATS = new Set(['jpeg', 'png', 'webp', 'heif', 'gif']);

/**
 * Checks a photo by decoding it, turns it upright, takes away its metadata (place, device) and makes its sizes once:
 * a square for the page and one of at most 20 KB for the contact file. Answers with the hash that names the picture.
 * Errors: PICTURE_UNREADABLE, PICTURE_TOO_LARGE.
 */
export async function preparePhoto(
  bytes: Buffer,
): Promise<{ hash: string; width: number; height: number; page_hash: string; file_hash: string }> {
  try {
    // A drawing is cleaned first and then painted: what is kept and shown is a picture of it.
    const drawing = looksLikeSvg(bytes);
    const given = drawing ? sanitiseSvg(bytes) : bytes;
    const source = () => sharp(given, { limitInputPixels: LIMITS.megapixels * 1e6, failOn: 'error' });
    const { width, height, format } = await source().metadata();
    if (!width || !height || !(drawing ? format === 'svg' : FORMATS.has(format ?? '')))
      throw new Refusal({ code: 'PICTURE_UNREADABLE' });
    const largest = await source()
      .rotate()
      .flatten({ background: '#fff' })
      .resize(1_200, 1_200, { fit: 'inside', withoutEnlargement: true })
      .jpeg({ quality: 85 })
      .toBuffer();
    const square = (side: number) => sharp(largest).resize(side, side, { fit: 'cover', position: 'attention' });
    const page = await square(PAGE_SIDE).jpeg({ quality: 78, mozjpeg: true }).toBuffer();
    let file = await square(FILE_SIDE).jpeg({ quality: 80, mozjpeg: true }).toBuffer();
    for (let quality = 70; file.length > FILE_BYTES && quality >= 30; quality -= 10)
      file = await square(FILE_SIDE).jpeg({ quality, mozjpeg: true }).toBuffer();
    const [hash, page_hash, file_hash] = await Promise.all([largest, page, file].map((made) => files().put(made)));
    return { hash: hash!, width, height, page_hash: page_hash!, file_hash: file_hash! };
  } catch (error) {
    if (error instanceof Refusal) throw error;
    const tooLarge = error instanceof Error && /pixel limit/i.test(error.message);
    throw new Refusal(
      tooLarge ? { code: 'PICTURE_TOO_LARGE', limitMegapixels: LIMITS.megapixels } : { code: 'PICTURE_UNREADABLE' },
    );
  }
}

export const keepPicture = (tx: Tx, organisationId: string, prepared: Awaited<ReturnType<typeof preparePhoto>>) =>
  insertPicture(tx, { organisation_id: organisationId, ...prepared });

/** The photo that a card's contact file carries, if the card has one. */
export async function photoForFile(tx: Tx, { lines }: Pick<Composition, 'lines'>): Promise<Buffer | null> {
  const line = lines.find(({ detail }) => detail.kind === 'photo');
  const row = line?.detail.kind === 'photo' ? await picture(tx, line.detail.picture) : undefined;
  return row ? files().get(row.file_hash) : null;
}

/** Whether a picture stands in a holder's own record. */
async function ownPicture(tx: Tx, ownRecord: string | null, hash: string): Promise<boolean> {
  const own = ownRecord ? await record(tx, ownRecord) : undefined;
  return own?.body.details.some((detail) => detail.kind === 'photo' && detail.picture === hash) ?? false;
}

/** A picture of the organisation at page size, as JPEG; for a holder their own. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function readPicture(actor: Actor, hash: string): Promise<Buffer> {
  const reach = authorise(actor, 'picture.read');
  const row = await inTenant(actor.organisationId, async (tx) => {
    if (reach === 'own' && !(await ownPicture(tx, actor.ownRecord, hash))) return undefined;
    return picture(tx, hash);
  });
  const bytes = row && (await files().get(row.page_hash));
  if (!bytes) throw new Refusal({ code: 'NOT_FOUND' });
  return bytes;
}
