import sharp, { type Sharp } from 'sharp';
import { Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { clampCrop, squareOf, topCrop, type Crop } from '@/core/record';
import { looksLikeSvg, sanitiseSvg } from './svg';

/** A page shows a face at 112 CSS pixels, three device pixels each. */
const PAGE_SIDE = 336;
/** Address books show a face at about 300 pixels; 20 KB keep a contact file quick on a poor connection (common practice). */
const FILE_SIDE = 300;
const FILE_BYTES = 20_000;
/** What is kept of a photo to crop from: enough for a printed face of 30 mm at 300 dpi out of a fifth of the picture. */
const LARGEST_SIDE = 2_000;

/** Of many portraits the square is kept at so many pixels: a printed face of 30 mm at 600 dpi. */
const SQUARE_SIDE = 720;

/** What sharp may decode: the formats of phones, cameras and drawing programs. Whatever else it can read is refused. */
const FORMATS = new Set(['jpeg', 'png', 'webp', 'heif', 'gif']);

/** A picture by its sizes: the largest, which cropping starts from, that of pages and that of contact files. */
export type SizedPicture = { width: number; height: number; largest: Buffer; page: Buffer; file: Buffer };

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
  const given = drawing ? await sanitiseSvg(bytes) : bytes;
  const source = () =>
    sharp(given, { limitInputPixels: LIMITS.megapixels * 1e6, failOn: 'error', ...(drawing ? { density: 192 } : {}) });
  const { width, height, format } = await source().metadata();
  if (!width || !height || !(drawing ? format === 'svg' : FORMATS.has(format ?? '')))
    throw new Refusal({ code: isHeic(bytes) ? 'PICTURE_HEIC' : 'PICTURE_UNREADABLE' });
  return { source, width, height };
}

/** The sizes of a square photo: one for the page and one of at most 20 KB for the contact file. */
async function sizesOf(square: (side: number) => Sharp): Promise<{ page: Buffer; file: Buffer }> {
  const page = await square(PAGE_SIDE).jpeg({ quality: 78, mozjpeg: true }).toBuffer();
  let file = await square(FILE_SIDE).jpeg({ quality: 80, mozjpeg: true }).toBuffer();
  for (let quality = 70; file.length > FILE_BYTES && quality >= 30; quality -= 10)
    file = await square(FILE_SIDE).jpeg({ quality, mozjpeg: true }).toBuffer();
  return { page, file };
}

/**
 * Checks a photo by decoding it, turns it upright, takes away its metadata (place, device) and makes its sizes once. `width`
 * and `height` are those of the kept picture. Errors: PICTURE_UNREADABLE, PICTURE_HEIC, PICTURE_TOO_LARGE.
 */
export const photo = ({ bytes }: { bytes: Buffer }): Promise<SizedPicture> =>
  decoded(bytes, async () => {
    const { source } = await opened(bytes);
    const { data: largest, info } = await source()
      .rotate()
      .flatten({ background: '#fff' })
      .resize(LARGEST_SIDE, LARGEST_SIDE, { fit: 'inside', withoutEnlargement: true })
      .jpeg({ quality: 85 })
      .toBuffer({ resolveWithObject: true });
    const square = (side: number) => sharp(largest).resize(side, side, { fit: 'cover', position: 'attention' });
    return { largest, width: info.width, height: info.height, ...(await sizesOf(square)) };
  });

/**
 * One of many photos, decoded once: the whole, and the square at its top with its sizes (see `topCrop`). Errors: as {@link photo}.
 */
export const rosterPhoto = ({
  bytes,
}: {
  bytes: Buffer;
}): Promise<{ whole: Omit<SizedPicture, 'page' | 'file'>; square: SizedPicture }> =>
  decoded(bytes, async () => {
    const { source } = await opened(bytes);
    const { data, info } = await source()
      .rotate()
      .flatten({ background: '#fff' })
      .resize(LARGEST_SIDE, LARGEST_SIDE, { fit: 'inside', withoutEnlargement: true })
      .toColourspace('srgb')
      .raw()
      .toBuffer({ resolveWithObject: true });
    // Grey pictures, and those with layers of their own, have other numbers of channels.
    const { width, height, channels } = info;
    const upright = () => sharp(data, { raw: { width, height, channels } });
    const largest = await upright().jpeg({ quality: 85 }).toBuffer();
    const { left, top, side } = squareOf(topCrop('', width, height), width, height);
    const length = Math.max(1, Math.min(width, height, Math.round(side)));
    const area = {
      left: Math.max(0, Math.min(width - length, Math.round(width / 2 + left))),
      top: Math.max(0, Math.min(height - length, Math.round(height / 2 + top))),
    };
    const kept = Math.min(length, SQUARE_SIDE);
    const cut = (to: number) =>
      upright()
        .extract({ ...area, width: length, height: length })
        .resize(to, to);
    // The small sizes come from one small square: most of what they cost is getting there.
    const small = await cut(PAGE_SIDE).raw().toBuffer({ resolveWithObject: true });
    const sizes = await sizesOf((to) => {
      const square = sharp(small.data, { raw: { width: PAGE_SIDE, height: PAGE_SIDE, channels: small.info.channels } });
      return to === PAGE_SIDE ? square : square.resize(to, to);
    });
    const square = await cut(kept).jpeg({ quality: 88 }).toBuffer();
    return {
      whole: { largest, width, height },
      square: { largest: square, width: kept, height: kept, ...sizes },
    };
  });

/** A square cut from a kept photo, straightened. Errors: as {@link photo}. */
export const crop = ({ largest, crop }: { largest: Buffer; crop: Crop }): Promise<SizedPicture> =>
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
    return { largest: cut, width: area.width, height: area.height, ...(await sizesOf(square)) };
  });

/** A logo, whole and with its transparency, as PNG. Errors: as {@link photo}. */
export const logo = ({ bytes }: { bytes: Buffer }): Promise<SizedPicture> =>
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
    const { width, height } = largest.info;
    return { width, height, largest: largest.data, page: page.data, file: file.data };
  });

/** A block shows a picture at most 480 CSS pixels wide, one and a half device pixels each at four fifths of that. */
const BLOCK_SIDE = 720;

/**
 * A picture for a block or an opening picture of a card: whole, at its own proportions; one with transparency stays PNG. `width` and
 * `height` are its proportions on the page. Errors: as {@link photo}.
 */
export const blockPicture = ({ bytes }: { bytes: Buffer }): Promise<SizedPicture> =>
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
    const { width, height } = page.info;
    return { width, height, largest: largest.data, page: page.data, file: file.data };
  });

/** A picture of ours in a format that browsers of today take: at the same size, or as a square cut as those of pages are, of at most `side` pixels. */
export async function lighter({
  bytes,
  format,
  side,
}: {
  bytes: Buffer;
  format: 'avif' | 'webp';
  side?: number;
}): Promise<Buffer> {
  const { width = 0, height = 0 } = side ? await sharp(bytes).metadata() : {};
  const most = Math.min(side ?? 0, width, height);
  const sized = most > 0 ? sharp(bytes).resize(most, most, { fit: 'cover', position: 'attention' }) : sharp(bytes);
  return format === 'avif'
    ? sized.avif({ quality: side ? 45 : 52, effort: 4 }).toBuffer()
    : sized.webp({ quality: 72, alphaQuality: 90 }).toBuffer();
}
