import { pictureOn, type Composition } from '@/core/card';
import type { Language } from '@/core/language';
import {
  LOGO_HEIGHT,
  PHOTO_SIDE,
  type SignatureContext,
  type SignatureOptions,
  type SignaturePicture,
  type Strip,
  type Variant,
  STRIP_WIDTH,
  faultOfStrip,
  stripAt,
} from '@/core/signature';
import { addDays, startOfDay } from '@/core/response';
import type { PictureRow } from '@/server/db/media/pictures';
import { mailed, type MailedPicture } from '@/server/services/media/mail-picture';

/** A picture that a signature shows, its size in CSS pixels; `file` is its smaller form in the file store. */
export type SignedPicture = MailedPicture & { kind: 'photo' | 'logo'; file: string; width: number; height: number };

/** What a card's signature is made from besides its lines. */
export type PublishedSignature = {
  options: SignatureOptions;
  photo: SignedPicture | null;
  logo: SignedPicture | null;
  /** Why nobody but the organisation changes how it is laid out; null where its holder does. */
  locked: string | null;
  /** What the organisation says below it. */
  below: string[];
  /** What shows for a while; instants in milliseconds, UTC. */
  strips: PublishedStrip[];
};

export type PublishedStrip = {
  id: string;
  text: string;
  link: string;
  picture: (MailedPicture & { width: number; height: number }) | null;
  from: number;
  until: number;
};

/** No logo is wider, in CSS pixels: a phone shows 320 of them. */
const WIDEST = 240;

/** The hashes of the pictures that are ticked for the signature. */
export const signedPictures = (composition: Composition) => ({
  photo: pictureOn(composition, 'photo', 'signature'),
  logo: pictureOn(composition, 'logo', 'signature'),
});

export function signedPicture(row: PictureRow | undefined, kind: 'photo' | 'logo'): SignedPicture | null {
  if (!row) return null;
  const named = { ...mailed(row), kind, file: row.file_hash };
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
export const linkedPicture = (link: string, { kind, hash }: SignedPicture): string =>
  kind === 'logo' ? `${link}/signed-${hash}.png` : `${link}/file-${hash}`;

/** The address of a strip's picture: after its end it gives an empty one, also to mails that were sent long ago. */
export const stripAddress = (link: string, { id }: Pick<PublishedStrip, 'id'>): string => `${link}/strip-${id}`;

/** The notice strips of a house style as signatures show them; a day begins in the organisation's time zone. */
export function publishedStrips(
  strips: readonly Strip[],
  pictures: ReadonlyMap<string, PictureRow>,
  timeZone: string,
): PublishedStrip[] {
  // What somebody saved before it was asked for in full shows nothing.
  const whole = strips.filter((strip) => faultOfStrip(strip) === null);
  return whole.map(({ id, text, link, picture, starts, ends }) => {
    const row = picture && pictures.get(picture.hash);
    const share = row ? Math.min(1, STRIP_WIDTH / row.width) : 1;
    return {
      ...{ id, text, link, from: startOfDay(starts, timeZone), until: startOfDay(addDays(ends, 1), timeZone) },
      picture: row
        ? {
            ...mailed(row),
            ...{ width: Math.round(row.width * share), height: Math.round(row.height * share) },
          }
        : null,
    };
  });
}

/** The strip that a variant shows at an instant: replies within a thread repeat none. */
export const stripOf = ({ strips }: PublishedSignature, variant: Variant, now: number): PublishedStrip | null =>
  variant === 'message' ? stripAt(strips, now) : null;

/** Everything that the organisation says in a signature, whenever that shows. */
export const wordsBelow = ({ below, strips }: PublishedSignature): string[] => [
  ...below,
  ...strips.map(({ text }) => text),
];

/** What of that must be seen without any picture. */
export const seenBelow = ({ below }: PublishedSignature, strip: PublishedStrip | null): string[] => [
  ...below,
  ...(strip && !strip.picture ? [strip.text] : []),
];

/** What a signature is written with: how it names its pictures, what the organisation says below it, and the strip of the day. */
export function signatureContext(
  { photo, logo, below }: PublishedSignature,
  strip: PublishedStrip | null,
  link: string,
  language: Language,
  sourceOf: (picture: SignedPicture) => string | null,
): SignatureContext {
  const shown = (picture: SignedPicture | null): SignaturePicture | null => {
    const src = picture && sourceOf(picture);
    return src ? { src, width: picture.width, height: picture.height } : null;
  };
  const notice = strip && {
    ...{ text: strip.text, link: strip.link },
    picture: strip.picture && { ...strip.picture, src: stripAddress(link, strip) },
  };
  return { language, link, photo: shown(photo), logo: shown(logo), below, strip: notice };
}
