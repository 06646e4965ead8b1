import sharp, { type Sharp } from 'sharp';
import type { Composition } from '@/core/card';
import { Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { clampCrop, squareOf, type Crop, type Detail } from '@/core/record';
import { insertPicture, picture, record } from '@/server/db/records';
import { shownByHouse } from '@/server/db/house';
import { inTenant, type Tx } from '@/server/db/pool';
import { shownOnCardOf } from '@/server/db/cards';
import { files, isHash } from '@/server/files';
import { looksLikeSvg, sanitiseSvg } from '@/server/files/svg';
import type { Actor } from './actor';
import { authorise } from './authorise';

/** A page shows a face at 112 CSS pixels, three device pixels each. */
const PAGE_SIDE = 336;
/** Address books show a face at about 300 pixels; 20 KB keep a contact file quick on a poor connection (common practice). */
const FILE_SIDE = 300;
const FILE_BYTES = 20_000;
/** What is kept of a photo to crop from: enough for a printed face of 30 mm at 300 dpi out of a fifth of the picture. */
const LARGEST_SIDE = 2_000;

/** What sharp may decode: the formats of phones, cameras and drawing programs. Whatever else it can read is refused. */
const FORMATS = new Set(['jpeg', 'png', 'webp', 'heif', 'gif']);

/** A picture in the file store by its sizes; `hash` names it and is that of what cropping starts from. */
export type PreparedPicture = { hash: string; width: number; height: number; page_hash: string; file_hash: string };

/** Errors of the decoder as problems: too many pixels, or not to be read. HEIC is told apart, since its owner can help it. */
async function decoded<T>(bytes: Buffer, work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof Refusal) throw error;
    const tooLarge = error instanceof Error && /pixel limit/i.test(error.message);
    if (tooLarge) throw new Refusal({ code: 'PICTURE_TOO_LARGE', limitMegapixels: LIMITS.megapixels });
    throw new Refusal({ code: isHeic(bytes) ? 'PICTURE_HEIC' : 'PICTURE_UNREADABLE' });
  }
}

/** Brands of HEIC in the file type box of ISO/IEC 14496-12 4.3 (from memory). */
const isHeic = (bytes: Buffer): boolean =>
  bytes.subarray(4, 8).toString('latin1') === 'ftyp' &&
  /^(heic|heix|hevc|heim|mif1)/.test(bytes.subarray(8, 12).toString('latin1'));

/** A given picture, its format checked by decoding; a drawing is cleaned first and then painted. */
async function opened(bytes: Buffer): Promise<{ source: () => Sharp; width: number; height: number }> {
  const drawing = looksLikeSvg(bytes);
  const given = drawing ? sanitiseSvg(bytes) : bytes;
  const source = () =>
    sharp(given, { limitInputPixels: LIMITS.megapixels * 1e6, failOn: 'error', ...(drawing ? { density: 192 } : {}) });
  const { width, height, format } = await source().metadata();
  if (!width || !height || !(drawing ? format === 'svg' : FORMATS.has(format ?? '')))
    throw new Refusal({ code: isHeic(bytes) ? 'PICTURE_HEIC' : 'PICTURE_UNREADABLE' });
  return { source, width, height };
}

/** The sizes of a square photo: one for the page and one of at most 20 KB for the contact file. */
async function sizesOf(square: (side: number) => Sharp): Promise<{ page_hash: string; file_hash: string }> {
  const page = await square(PAGE_SIDE).jpeg({ quality: 78, mozjpeg: true }).toBuffer();
  let file = await square(FILE_SIDE).jpeg({ quality: 80, mozjpeg: true }).toBuffer();
  for (let quality = 70; file.length > FILE_BYTES && quality >= 30; quality -= 10)
    file = await square(FILE_SIDE).jpeg({ quality, mozjpeg: true }).toBuffer();
  return { page_hash: await files().put(page), file_hash: await files().put(file) };
}

/**
 * Checks a photo by decoding it, turns it upright, takes away its metadata (place, device) and makes its sizes once. `width`
 * and `height` are those of the kept picture. Errors: PICTURE_UNREADABLE, PICTURE_HEIC, PICTURE_TOO_LARGE.
 */
export const preparePhoto = (bytes: Buffer): Promise<PreparedPicture> =>
  decoded(bytes, async () => {
    const { source } = await opened(bytes);
    const { data: largest, info } = await source()
      .rotate()
      .flatten({ background: '#fff' })
      .resize(LARGEST_SIDE, LARGEST_SIDE, { fit: 'inside', withoutEnlargement: true })
      .jpeg({ quality: 85 })
      .toBuffer({ resolveWithObject: true });
    const square = (side: number) => sharp(largest).resize(side, side, { fit: 'cover', position: 'attention' });
    const hash = await files().put(largest);
    return { hash, width: info.width, height: info.height, ...(await sizesOf(square)) };
  });

/** A square cut from a kept photo, straightened. Errors: as {@link preparePhoto}. */
export const prepareCrop = (largest: Buffer, crop: Crop): Promise<PreparedPicture> =>
  decoded(largest, async () => {
    const { width = 0, height = 0 } = await sharp(largest).metadata();
    const { left, top, side } = squareOf(clampCrop(crop, width, height), width, height);
    // Turned about its middle; the canvas grows, the square lies within what was there before.
    const turned = await sharp(largest).rotate(crop.turn, { background: '#fff' }).jpeg({ quality: 92 }).toBuffer();
    const { width: w = 0, height: h = 0 } = await sharp(turned).metadata();
    const area = {
      left: Math.max(0, Math.round(w / 2 + left)),
      top: Math.max(0, Math.round(h / 2 + top)),
      width: Math.max(1, Math.min(w, Math.round(side))),
      height: Math.max(1, Math.min(h, Math.round(side))),
    };
    area.left = Math.min(area.left, w - area.width);
    area.top = Math.min(area.top, h - area.height);
    const cut = await sharp(turned).extract(area).jpeg({ quality: 90 }).toBuffer();
    const square = (to: number) => sharp(cut).resize(to, to, { fit: 'cover' });
    return { hash: await files().put(cut), width: area.width, height: area.height, ...(await sizesOf(square)) };
  });

/** A logo, whole and with its transparency, as PNG. Errors: as {@link preparePhoto}. */
export const prepareLogo = (bytes: Buffer): Promise<PreparedPicture> =>
  decoded(bytes, async () => {
    const { source } = await opened(bytes);
    const png = (width: number, height: number, colours?: number) =>
      source()
        .rotate()
        .resize(width, height, { fit: 'inside', withoutEnlargement: true })
        .png(colours ? { palette: true, colours } : { palette: true })
        .toBuffer({ resolveWithObject: true });
    const largest = await png(1_200, 1_200);
    const page = await png(480, 144);
    let file = await png(300, 300);
    for (const colours of [64, 16, 4]) if (file.data.length > FILE_BYTES) file = await png(240, 240, colours);
    const [hash, page_hash, file_hash] = await Promise.all([largest, page, file].map(({ data }) => files().put(data)));
    const { width, height } = largest.info;
    return { hash: hash!, width, height, page_hash: page_hash!, file_hash: file_hash! };
  });

/** A block shows a picture at most 480 CSS pixels wide, one and a half device pixels each at four fifths of that. */
const BLOCK_SIDE = 720;

/**
 * A picture for a block or an opening picture of a card: whole, at its own proportions; one with transparency stays PNG. `width` and
 * `height` are its proportions on the page. Errors: as {@link preparePhoto}.
 */
export const prepareBlockPicture = (bytes: Buffer): Promise<PreparedPicture> =>
  decoded(bytes, async () => {
    const { source } = await opened(bytes);
    const { hasAlpha } = await source().metadata();
    const sized = async (side: number, quality: number) => {
      const fitting = source().rotate().resize(side, side, { fit: 'inside', withoutEnlargement: true });
      const made = hasAlpha ? fitting.png({ palette: true }) : fitting.jpeg({ quality, mozjpeg: side < LARGEST_SIDE });
      return made.toBuffer({ resolveWithObject: true });
    };
    const [largest, page, file] = [
      await sized(LARGEST_SIDE, 85),
      await sized(BLOCK_SIDE, 74),
      await sized(FILE_SIDE, 70),
    ];
    const [hash, page_hash, file_hash] = await Promise.all([largest, page, file].map(({ data }) => files().put(data)));
    const { width, height } = page.info;
    return { hash: hash!, width, height, page_hash: page_hash!, file_hash: file_hash! };
  });

export const keepPicture = (tx: Tx, organisationId: string, prepared: PreparedPicture, addedBy: string | null) =>
  insertPicture(tx, { organisation_id: organisationId, added_by: addedBy, ...prepared });

/** A picture at the size that a contact file carries; null where it is gone. */
export async function pictureForFile(tx: Tx, hash: string): Promise<Buffer | null> {
  const row = await picture(tx, hash);
  return row ? files().get(row.file_hash) : null;
}

/** The pictures among details at the size that a contact file carries. */
export async function picturesForFile(
  tx: Tx,
  details: Detail[],
): Promise<{ photo: Buffer | null; logo: Buffer | null }> {
  const of = async (kind: 'photo' | 'logo') => {
    const detail = details.find((each) => each.kind === kind);
    return detail && 'picture' in detail ? pictureForFile(tx, detail.picture) : null;
  };
  return { photo: await of('photo'), logo: await of('logo') };
}

/** The pictures that a card's contact file carries, if it has any. */
export const picturesOf = (tx: Tx, { lines }: Composition) =>
  picturesForFile(
    tx,
    lines.map(({ detail }) => detail),
  );

/** Whether a picture stands in a holder's own record, on a card of it, or on every card by the house style. */
async function ownPicture(tx: Tx, ownRecord: string | null, hash: string): Promise<boolean> {
  if (isHash(hash) && (await shownByHouse(tx, hash))) return true;
  const own = ownRecord ? await record(tx, ownRecord) : undefined;
  if (own && isHash(hash) && (await shownOnCardOf(tx, own.id, hash))) return true;
  return (
    own?.body.details.some(
      (detail) =>
        ('picture' in detail && detail.picture === hash) || (detail.kind === 'photo' && detail.crop?.from === hash),
    ) ?? false
  );
}

/** Sizes in which the studio shows a picture: as on the page, as in the contact file, or whole, to crop it. */
export const PICTURE_SIZES = ['page', 'file', 'whole'] as const;
export type PictureSize = (typeof PICTURE_SIZES)[number];

/** A picture of the organisation, JPEG or PNG; for a holder their own. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function readPicture(actor: Actor, hash: string, size: PictureSize = 'page'): Promise<Buffer> {
  const reach = authorise(actor, 'picture.read');
  const row = await inTenant(actor.organisationId, async (tx) => {
    const found = await picture(tx, hash);
    const own = found?.added_by === actor.userId || (await ownPicture(tx, actor.ownRecord, hash));
    return reach === 'all' || own ? found : undefined;
  });
  const bytes = row && (await files().get({ page: row.page_hash, file: row.file_hash, whole: row.hash }[size]));
  if (!bytes) throw new Refusal({ code: 'NOT_FOUND' });
  return bytes;
}
