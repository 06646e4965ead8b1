import { pictureOn, type Composition } from '@/core/card';
import type { Language } from '@/core/language';
import {
  LOGO_HEIGHT,
  PHOTO_SIDE,
  type SignatureContext,
  type SignatureOptions,
  type SignaturePicture,
} from '@/core/signature';
import type { PictureRow } from '@/server/db/media/pictures';

/** A picture that a signature shows: the hash that names it, that of its smaller form in the file store, and its size in CSS pixels. */
export type SignedPicture = { hash: string; file: string; width: number; height: number };

/** What a card's signature is made from besides its lines. */
export type PublishedSignature = { options: SignatureOptions; photo: SignedPicture | null; logo: SignedPicture | null };

/** No logo is wider, in CSS pixels: a phone shows 320 of them. */
const WIDEST = 240;

/** The hashes of the pictures that are ticked for the signature. */
export const signedPictures = (composition: Composition) => ({
  photo: pictureOn(composition, 'photo', 'signature'),
  logo: pictureOn(composition, 'logo', 'signature'),
});

export function signedPicture(row: PictureRow | undefined, kind: 'photo' | 'logo'): SignedPicture | null {
  if (!row) return null;
  const named = { hash: row.hash, file: row.file_hash };
  // A face is shown as a square, however it was cropped.
  if (kind === 'photo') return { ...named, width: PHOTO_SIDE, height: PHOTO_SIDE };
  const share = Math.min(LOGO_HEIGHT / row.height, WIDEST / row.width);
  return {
    ...named,
    width: Math.max(1, Math.round(row.width * share)),
    height: Math.max(1, Math.round(row.height * share)),
  };
}

/** The address of a picture by the code of its signature: it stays good for mails that were sent long ago. */
export const linkedPicture = (link: string, { hash }: SignedPicture): string => `${link}/file-${hash}`;

/** How a signature names its pictures. */
export function signatureContext(
  { photo, logo }: Pick<PublishedSignature, 'photo' | 'logo'>,
  link: string,
  language: Language,
  sourceOf: (picture: SignedPicture) => string | null,
): SignatureContext {
  const shown = (picture: SignedPicture | null): SignaturePicture | null => {
    const src = picture && sourceOf(picture);
    return src ? { src, width: picture.width, height: picture.height } : null;
  };
  return { language, link, photo: shown(photo), logo: shown(logo) };
}
