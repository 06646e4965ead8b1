import { createHash } from 'node:crypto';
import sharp from 'sharp';
import type { Composition } from '@/core/card';
import {
  FACE_SIZES,
  faceContent,
  faceSvg,
  iconSvg,
  INTRODUCTION,
  layFace,
  type Face,
  type FaceName,
  type FacePictures,
} from '@/core/face';
import type { Language } from '@/core/messages';
import { files } from '@/server/files';
import { shippedTypesetter } from '@/server/fonts';
import type { BlockFile } from './block-files';
import type { PublishedCard, ShownPicture } from './load-published';

/** Counted up whenever faces are drawn in another way, so that what was kept of them is drawn anew. */
const DRAWING = 1;

/** What a face is drawn from. */
export type ToDraw = {
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

/** A photo on a face is at most as many pixels wide as a printed half of a card needs at 300 dpi, or a link's picture. */
const PHOTO_SIDE = 640;

const dataUri = (type: string, bytes: Buffer) => `data:${type};base64,${bytes.toString('base64')}`;

async function picturesFor(
  { composition, photo, logo: usual, logoOnBand, files: known }: ToDraw,
  onBand: boolean,
): Promise<{
  sources: FacePictures;
  sizes: { photo: { width: number; height: number } | null; logo: { width: number; height: number } | null };
}> {
  const logo = (onBand && logoOnBand) || usual;
  const whole = photo && ((await files().get(photo.whole)) ?? photo.page);
  const { ground } = composition.look;
  const file = ground.kind === 'picture' ? known.get(ground.picture.hash) : undefined;
  const [face, mark, back] = await Promise.all([
    whole &&
      sharp(whole)
        .resize(PHOTO_SIDE, PHOTO_SIDE, { fit: 'cover', position: 'attention' })
        .jpeg({ quality: 88 })
        .toBuffer(),
    logo && sharp(logo.page).png().toBuffer({ resolveWithObject: true }),
    file && files().get(file.hash),
  ]);
  return {
    sources: {
      photo: face && dataUri('image/jpeg', face),
      logo: mark && dataUri('image/png', mark.data),
      ground: back ? dataUri('image/jpeg', await sharp(back).jpeg({ quality: 85 }).toBuffer()) : null,
    },
    sizes: {
      photo: face && { width: PHOTO_SIDE, height: PHOTO_SIDE },
      logo: mark && { width: mark.info.width, height: mark.info.height },
    },
  };
}

/**
 * One face of a card in a language, by its look: its layout and the SVG of it. The picture of links tells who it is and no
 * number, since whoever is sent a link keeps it.
 */
export async function drawFace(card: ToDraw, name: FaceName, language: Language): Promise<{ face: Face; svg: string }> {
  const { sources, sizes } = await picturesFor(card, FACE_SIZES[name].form === 'back');
  const size = FACE_SIZES[name];
  const content = faceContent(card.composition, language, sizes, name === 'link' ? INTRODUCTION : 'lines');
  const typesetter = await shippedTypesetter();
  const face = layFace(card.composition.look, content, size, typesetter);
  return { face, svg: faceSvg(face, typesetter, sources, name === 'link' || name === 'picture' ? 'px' : 'mm') };
}

/** A face as a picture of its own size in pixels. */
export async function paintFace(
  card: ToDraw,
  name: 'link' | 'picture',
  language: Language,
  format: 'jpeg' | 'webp',
): Promise<Buffer> {
  const { svg } = await drawFace(card, name, language);
  const { width, height } = FACE_SIZES[name];
  const painted = sharp(Buffer.from(svg)).resize(width, height).flatten({ background: '#fff' });
  return format === 'webp'
    ? painted.webp({ quality: 82 }).toBuffer()
    : painted.jpeg({ quality: 86, chromaSubsampling: '4:4:4' }).toBuffer();
}

/** The icon of a card on a phone's first screen: initials on its band, 512 pixels wide, safe to be cut round. */
export const paintIcon = async ({ composition }: Pick<PublishedCard, 'composition'>): Promise<Buffer> =>
  sharp(Buffer.from(iconSvg(composition, await shippedTypesetter())))
    .png({ palette: true })
    .toBuffer();

/** The photo as a browser of today takes it: a third lighter than the JPEG beside it. */
export const lightPhoto = ({ page }: ShownPicture): Promise<Buffer> =>
  sharp(page).avif({ quality: 52, effort: 4 }).toBuffer();

/** A picture of a block, named by its hash in the store, as a browser of today takes it. */
export async function lightPicture(hash: string): Promise<Buffer> {
  const bytes = await files().get(hash);
  if (!bytes) throw new Error('a picture of a block is not in the file store');
  return sharp(bytes).webp({ quality: 72, alphaQuality: 90 }).toBuffer();
}
