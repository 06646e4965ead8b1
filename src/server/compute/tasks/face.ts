import sharp from 'sharp';
import type { Composition } from '@/core/card';
import {
  FACE_SIZES,
  faceContent,
  faceSvg,
  iconSvg,
  INTRODUCTION,
  layFace,
  type FaceName,
  type FacePictures,
} from '@/core/face';
import { logoGrounds } from '@/core/house';
import { groundsOf, plateFor } from '@/core/look';
import type { Language } from '@/core/language';
import { shippedTypesetter } from '@/server/fonts';
import { coloursOf } from './colours';

/** A photo on a face is at most as many pixels wide as a printed half of a card needs at 300 dpi, or a link's picture. */
const PHOTO_SIDE = 640;

const dataUri = (type: string, bytes: Buffer) => `data:${type};base64,${bytes.toString('base64')}`;

/** What a face is drawn from: a composition, and the bytes of the pictures that it shows. */
export type FaceOrder = {
  composition: Composition;
  photo: Buffer | null;
  logo: Buffer | null;
  ground: Buffer | null;
  name: FaceName;
  language: Language;
  format: 'svg' | 'jpeg' | 'webp';
  channel: 'page' | 'print';
};

/** A drawn face: SVG as text in UTF-8 or a picture of its own size in pixels, with what had no room on it. */
export type DrawnFace = {
  bytes: Buffer;
  leftOut: string[];
  cut: string[];
  missing: string[];
  smallestType: number;
};

async function picturesFor({ photo, logo, ground }: FaceOrder) {
  const [face, mark, back] = await Promise.all([
    photo &&
      sharp(photo)
        .resize(PHOTO_SIDE, PHOTO_SIDE, { fit: 'cover', position: 'attention' })
        .jpeg({ quality: 88 })
        .toBuffer(),
    logo && sharp(logo).png().toBuffer({ resolveWithObject: true }),
    ground && sharp(ground).jpeg({ quality: 85 }).toBuffer(),
  ]);
  const sources: FacePictures = {
    photo: face && dataUri('image/jpeg', face),
    logo: mark && dataUri('image/png', mark.data),
    ground: back && dataUri('image/jpeg', back),
  };
  return {
    sources,
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
export async function drawFace(order: FaceOrder): Promise<DrawnFace> {
  const { composition, name, language, format, channel } = order;
  const { sources, sizes } = await picturesFor(order);
  const size = FACE_SIZES[name];
  const marked = { ...sizes, logo: sizes.logo && { ...sizes.logo, plate: await plateOf(order) } };
  const content = faceContent(composition, language, marked, name === 'link' ? INTRODUCTION : 'lines', channel);
  const typesetter = await shippedTypesetter();
  const wanted = channel === 'print' ? { ...size, whole: true as const } : size;
  const face = layFace(composition.look, content, wanted, typesetter);
  const { leftOut, cut, missing, smallestType } = face;
  const svg = Buffer.from(faceSvg(face, typesetter, sources, name === 'link' || name === 'picture' ? 'px' : 'mm'));
  return {
    bytes: format === 'svg' ? svg : await painted(svg, size, format),
    leftOut,
    cut,
    missing,
    smallestType,
  };
}

/** The plate that the logo needs on this face; the back of a card is all band. */
async function plateOf({ composition: { look }, logo, name }: FaceOrder): Promise<string | null> {
  if (!logo) return null;
  const { colours } = await coloursOf({ bytes: logo });
  const grounds = FACE_SIZES[name].form === 'back' ? groundsOf(look) : logoGrounds(look);
  return plateFor(colours, grounds, look.palette.sheet);
}

function painted(svg: Buffer, { width, height }: { width: number; height: number }, format: 'jpeg' | 'webp') {
  const picture = sharp(svg).resize(width, height).flatten({ background: '#fff' });
  return format === 'webp'
    ? picture.webp({ quality: 82 }).toBuffer()
    : picture.jpeg({ quality: 86, chromaSubsampling: '4:4:4' }).toBuffer();
}

/** The icon of a card on a phone's first screen: initials on its band, 512 pixels wide, safe to be cut round. PNG. */
export const drawIcon = async ({ composition }: { composition: Composition }): Promise<Buffer> =>
  sharp(Buffer.from(iconSvg(composition, await shippedTypesetter())))
    .png({ palette: true })
    .toBuffer();
