import sharp, { type Sharp } from 'sharp';
import { BACKDROP, CALL, layBackdrop, type Backdrop } from '@/core/backdrop';
import type { Composition } from '@/core/card';
import { faceSvg, type Face } from '@/core/face';
import type { Language } from '@/core/language';
import { loadWords } from '@/core/messages';
import { groundsOf, plateFor } from '@/core/look';
import type { Proof } from '@/core/proof';
import { proveBackdrop, type ReadBackdrop } from '@/core/proof/backdrop';
import { greyFrom } from '@/core/proof/scan';
import type { Drawing } from '@/core/qr';
import { shippedTypesetter } from '@/server/fonts';
import { codePrograms } from './code/programs';
import { coloursOf } from './colours';
import { codesIn, contrastIn } from './read-picture';

/** A backdrop to draw: what the card gives out, already in its house style, the bytes of pictures, and what its code holds. */
export type BackdropOrder = {
  composition: Composition;
  language: Language;
  backdrop: Backdrop;
  pictures: Record<'photo' | 'logo' | 'ground', Buffer | null>;
  code: Drawing;
  link: string;
  /** Values that must not stand on it. */
  withheld: string[];
  /** PNG, or the form that is smaller for what it shows. */
  form: 'png' | 'smaller';
};

export type DrawnBackdrop = { bytes: Buffer; type: 'image/png' | 'image/jpeg'; proof: Proof };

const uri = (type: string, bytes: Buffer) => `data:${type};base64,${bytes.toString('base64')}`;

/** Pictures as they stand on a backdrop: upright and no larger than they show. */
async function picturesFor({ composition: { look }, pictures, backdrop }: BackdropOrder) {
  const [photo, logo, ground] = await Promise.all([
    pictures.photo && sharp(pictures.photo).resize(400, 400, { fit: 'cover', position: 'attention' }).jpeg().toBuffer(),
    pictures.logo &&
      sharp(pictures.logo)
        .resize(960, 320, { fit: 'inside', withoutEnlargement: true })
        .png()
        .toBuffer({ resolveWithObject: true }),
    pictures.ground &&
      sharp(pictures.ground).resize(BACKDROP.width, BACKDROP.height, { fit: 'cover' }).jpeg({ quality: 92 }).toBuffer(),
  ]);
  const grounds = backdrop.picture ? [look.palette.sheet] : groundsOf(look);
  const plate = logo && plateFor((await coloursOf({ bytes: logo.data })).colours, grounds, look.palette.sheet);
  return {
    sizes: {
      photo: photo && { width: 400, height: 400 },
      logo: logo && { width: logo.info.width, height: logo.info.height, plate },
    },
    sources: {
      photo: photo && uri('image/jpeg', photo),
      logo: logo && uri('image/png', logo.data),
      ground: ground && uri('image/jpeg', ground),
    },
  };
}

/** Draws a backdrop and proves it from its bytes, as a call with little room leaves them. */
export async function drawBackdrop(order: BackdropOrder): Promise<DrawnBackdrop> {
  await Promise.all([loadWords(order.language), codePrograms()]);
  const typesetter = await shippedTypesetter();
  const { sizes, sources } = await picturesFor(order);
  const face = layBackdrop({ ...order, pictures: sizes }, typesetter);
  const svg = Buffer.from(faceSvg(face, typesetter, sources));
  const { composition, withheld, link, backdrop, form } = order;
  const painted = sharp(svg).flatten({ background: composition.look.palette.band });
  // Flat colours take less room as PNG, and photos and gradients as JPEG.
  const flat =
    backdrop.picture === null &&
    (composition.look.ground.kind === 'plain' || composition.look.ground.kind === 'pattern');
  const asPng = form === 'png' || flat;
  const bytes = await (asPng ? painted.png() : painted.jpeg({ quality: 88, chromaSubsampling: '4:4:4' })).toBuffer();
  const read = await readBackdrop(bytes, face);
  const proof = proveBackdrop(read, { composition, withheld, face, link, bytes: bytes.length });
  return { bytes, type: asPng ? 'image/png' : 'image/jpeg', proof };
}

/** Reads a backdrop back: its texts as they are, its code as a call leaves it. */
export async function readBackdrop(bytes: Buffer, face: Face): Promise<ReadBackdrop> {
  const raw = async (picture: Sharp) => {
    const { data, info } = await picture.ensureAlpha().raw().toBuffer({ resolveWithObject: true });
    return { ...info, grey: greyFrom(data, info.width, info.height) };
  };
  const called = await sharp(bytes)
    .resize(CALL.width, CALL.height, { fit: 'fill' })
    .webp({ quality: CALL.quality })
    .toBuffer();
  const [{ width, height, grey }, small] = await Promise.all([raw(sharp(bytes)), raw(sharp(called))]);
  const share = width / CALL.width;
  const whole = { left: 0, top: 0, width: CALL.width, height: CALL.height };
  const codes = await codesIn(small.grey, [whole], { most: 4, share: 1, exact: true });
  return {
    ...{ width, height },
    codes: codes.map((code) => ({ ...code, x: code.x * share, y: code.y * share, width: code.width * share })),
    contrasts: face.items.flatMap((item) => {
      if (item.kind !== 'text') return [];
      const lefts = item.text.widths.map((_, at) => item.x + item.shifts[at]!);
      const left = Math.min(...lefts);
      const right = Math.max(...item.text.widths.map((wide, at) => lefts[at]! + wide));
      return contrastIn(grey, { left, top: item.y, width: right - left, height: item.text.height }) ?? [];
    }),
  };
}
