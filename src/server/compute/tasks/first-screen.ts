import { readFileSync } from 'node:fs';
import sharp from 'sharp';
import subsetFont from 'subset-font';
import type { FamilyName } from '@/core/look';
import { trueTypeFile } from '@/server/fonts';

/** Tried in turn; the last one still shows who it is until the sharp picture comes. */
const QUALITIES = [80, 66, 52, 40, 30, 22, 16, 11, 8];

/**
 * A picture in the pixels of its box, cut as the page cuts it (`object-fit: cover` at 50 % 25 %), as JPEG from fine to coarse: whoever
 * sends it takes the first that there is room for.
 */
export async function previews(order: { bytes: Buffer; width: number; height: number }): Promise<Buffer[]> {
  const { bytes, width, height } = order;
  // Below what is transparent it would be seen for ever.
  if ((await sharp(bytes).metadata()).hasAlpha) return [];
  const scaled = await sharp(bytes).resize(width, height, { fit: 'outside' }).toBuffer({ resolveWithObject: true });
  const spare = { x: scaled.info.width - width, y: scaled.info.height - height };
  const cut = await sharp(scaled.data)
    .extract({ left: Math.floor(spare.x / 2), top: Math.floor(spare.y / 4), width, height })
    .flatten({ background: '#fff' })
    .raw()
    .toBuffer({ resolveWithObject: true });
  const raw = { width, height, channels: cut.info.channels };
  return Promise.all(QUALITIES.map((quality) => sharp(cut.data, { raw }).jpeg({ quality, mozjpeg: true }).toBuffer()));
}

/**
 * The letters of a family's heavy weight that a text has, as WOFF2. Ligatures and other forms of Latin letters stay behind, which take
 * half of the bytes; Arabic ones are what its words are written with.
 */
export const letters = ({ family, text }: { family: FamilyName; text: string }): Promise<Buffer> =>
  subsetFont(readFileSync(trueTypeFile(family, 'heavy')), text, {
    targetFormat: 'woff2',
    noHinting: true,
    noLayoutClosure: family !== 'vazirmatn',
  });
