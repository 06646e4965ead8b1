import { recordsWithin } from '@/core/access';
import { pictureOn, type Composition } from '@/core/card';
import { Refusal } from '@/core/errors';
import type { Crop, Detail } from '@/core/record';
import { pictureInRecords } from '@/server/db/cards/records';
import { gaveIt, insertPicture, picture, picturesBy, type PictureRow } from '@/server/db/media/pictures';
import { shownByHouse } from '@/server/db/house/house';
import { inTenant, type Tx } from '@/server/db/pool';
import { shownOnCardOf } from '@/server/db/cards/cards';
import { compute } from '@/server/compute';
import type { SizedPicture } from '@/server/compute/tasks/pictures';
import { files, isHash } from '@/server/files';
import { mailed, mailPicture } from './mail-picture';
import type { Actor } from '@/server/services/accounts/actor';
import { authorise } from '@/server/services/accounts/authorise';
import { refuseBeyondQuota } from '@/server/services/organisation/quota';

/** A picture in the file store by its sizes; `hash` names it and is that of what cropping starts from. */
export type PreparedPicture = {
  hash: string;
  width: number;
  height: number;
  page_hash: string;
  file_hash: string;
  bytes: number;
};

/** A picture at its sizes into the file store. */
async function stored({ width, height, ...sizes }: SizedPicture): Promise<PreparedPicture> {
  const [hash, page_hash, file_hash] = await Promise.all(
    [sizes.largest, sizes.page, sizes.file].map((bytes) => files().put(bytes)),
  );
  const bytes = sizes.largest.length + sizes.page.length + sizes.file.length;
  return { hash: hash!, width, height, page_hash: page_hash!, file_hash: file_hash!, bytes };
}

/**
 * Checks a photo by decoding it, turns it upright, takes away its metadata (place, device) and makes its sizes once. `width`
 * and `height` are those of the kept picture, `of` the organisation. Errors: PICTURE_UNREADABLE, PICTURE_HEIC, PICTURE_TOO_LARGE,
 * TOO_BUSY, TOO_LABORIOUS.
 */
export const preparePhoto = async (bytes: Buffer, of: string): Promise<PreparedPicture> =>
  stored(await compute('photo', { bytes }, { of }));

/** One of many photos: the whole, which its crop can be changed from, and the square at its top. Errors: as {@link preparePhoto}. */
export async function prepareRosterPhoto(
  bytes: Buffer,
  of: string,
): Promise<{ whole: PreparedPicture; square: PreparedPicture }> {
  const { whole, square } = await compute('roster photo', { bytes }, { of });
  const made = await stored(square);
  const hash = await files().put(whole.largest);
  const sizes = { page_hash: made.page_hash, file_hash: made.file_hash };
  const { width, height } = whole;
  return { whole: { hash, width, height, ...sizes, bytes: whole.largest.length }, square: made };
}

/** A square cut from a kept photo, straightened. Errors: as {@link preparePhoto}. */
export const prepareCrop = async (largest: Buffer, crop: Crop, of: string): Promise<PreparedPicture> =>
  stored(await compute('crop', { largest, crop }, { of }));

/** A logo, whole and with its transparency, as PNG. Errors: as {@link preparePhoto}, FILE_TOO_LARGE. */
export const prepareLogo = async (bytes: Buffer, of: string): Promise<PreparedPicture> =>
  stored(await compute('logo', { bytes }, { of }));

/** A picture for a block or an opening picture of a card: whole, at its own proportions. Errors: as {@link preparePhoto}. */
export const prepareBlockPicture = async (bytes: Buffer, of: string): Promise<PreparedPicture> =>
  stored(await compute('block picture', { bytes }, { of }));

/** Notes a picture as the organisation's. Error: QUOTA_FULL. */
export async function keepPicture(
  tx: Tx,
  organisationId: string,
  prepared: PreparedPicture,
  addedBy: string | null,
): Promise<void> {
  await refuseBeyondQuota(tx, organisationId, prepared.bytes);
  await insertPicture(tx, { organisation_id: organisationId, added_by: addedBy, ...prepared });
}

/** Something that is read from the file store once no transaction waits for it. Error: STORE_UNAVAILABLE. */
export type Later<T> = () => Promise<T>;

/** What was read, or null while the file store does not answer: whoever shows a card goes on without what lies there. */
export async function unlessUnavailable<T>(read: Later<T>): Promise<T | null> {
  try {
    return await read();
  } catch (error) {
    if (!(error instanceof Refusal) || error.problem.code !== 'STORE_UNAVAILABLE') throw error;
    return null;
  }
}

type FilePictures = { photo: Buffer | null; logo: Buffer | null };

/** Finds a picture of the organisation by its hash. */
export type FindPicture = (hash: string) => Promise<PictureRow | undefined>;
export const findIn =
  (tx: Tx): FindPicture =>
  (hash) =>
    picture(tx, hash);

/** Those of several compositions, read at once. */
export async function findAmong(tx: Tx, compositions: Composition[]): Promise<FindPicture> {
  const hashes = compositions.flatMap(({ lines }) =>
    lines.flatMap(({ detail }) => ('picture' in detail ? [detail.picture] : [])),
  );
  const rows = new Map((await picturesBy(tx, [...new Set(hashes)])).map((row) => [row.hash, row]));
  return async (hash) => rows.get(hash);
}

/** Pictures at the size that a contact file carries; null where one is gone. */
async function atFileSize(
  find: FindPicture,
  hashOf: (kind: 'photo' | 'logo') => string | undefined,
): Promise<Later<FilePictures>> {
  const row = async (kind: 'photo' | 'logo') => {
    const hash = hashOf(kind);
    return hash === undefined ? undefined : find(hash);
  };
  const [photo, logo] = [await row('photo'), await row('logo')];
  const bytes = async (of: typeof photo) => (of ? files().get(of.file_hash) : null);
  return async () => ({ photo: await bytes(photo), logo: await bytes(logo) });
}

/** The pictures among details at the size that a contact file carries. */
export const picturesForFile = (tx: Tx, details: Detail[]): Promise<Later<FilePictures>> =>
  atFileSize(findIn(tx), (kind) => {
    const detail = details.find((each) => each.kind === kind);
    return detail && 'picture' in detail ? detail.picture : undefined;
  });

/** The pictures that a card's contact file carries, if any are ticked for it. */
export const picturesOf = (find: FindPicture, composition: Composition): Promise<Later<FilePictures>> =>
  atFileSize(find, (kind) => pictureOn(composition, kind, 'file'));

type ToProve = {
  pictures: Record<string, { page: string; file: string }>;
  onPage: { photo: string | null; logo: string | null };
};

/** What the proof of pictures holds outputs against: the pictures of all lines, whatever they are ticked for, and those of the page. */
export async function picturesToProve(find: FindPicture, composition: Composition): Promise<Later<ToProve>> {
  const rows: PictureRow[] = [];
  for (const { detail } of composition.lines) {
    const row = 'picture' in detail ? await find(detail.picture) : undefined;
    if (row) rows.push(row);
  }
  return async () => {
    const pictures: ToProve['pictures'] = {};
    for (const row of rows) {
      const bytes = await files().get(row.file_hash);
      if (bytes) pictures[row.hash] = { page: row.page_hash, file: bytes.toString('base64') };
    }
    const of = (kind: 'photo' | 'logo') => pictures[pictureOn(composition, kind, 'page') ?? '']?.page ?? null;
    return { pictures, onPage: { photo: of('photo'), logo: of('logo') } };
  };
}

/** Whether a picture stands in a record that a member reaches, on a card of one, or on every card by the house style. */
async function isWithin(tx: Tx, actor: Actor, hash: string): Promise<boolean> {
  if (!isHash(hash)) return false;
  const within = recordsWithin(actor, 'picture.read');
  if (within === 'all' || (await shownByHouse(tx, hash))) return true;
  if (within.length === 0) return false;
  return (await pictureInRecords(tx, within, hash)) || shownOnCardOf(tx, within, hash);
}

/** Whether a member may put a picture somewhere: one of the organisation, for a holder one that they gave or that is theirs to see. */
export async function mayShow(tx: Tx, actor: Actor, hash: string): Promise<boolean> {
  const found = await picture(tx, hash);
  return found !== undefined && (gaveIt(found, actor.userId) || isWithin(tx, actor, hash));
}

/** Sizes in which the studio shows a picture: as on the page, as in the contact file, as in mails, or whole, to crop it. */
export const PICTURE_SIZES = ['page', 'file', 'mail', 'whole'] as const;
export type PictureSize = (typeof PICTURE_SIZES)[number];

/** A picture of the organisation, JPEG or PNG; for a holder their own. Errors: NOT_ALLOWED, NOT_FOUND, and those of {@link mailPicture}. */
export async function readPicture(actor: Actor, hash: string, size: PictureSize = 'page'): Promise<Buffer> {
  authorise(actor, 'picture.read');
  const row = await inTenant(actor, async (tx) => {
    const found = await picture(tx, hash);
    return found && (gaveIt(found, actor.userId) || (await isWithin(tx, actor, hash))) ? found : undefined;
  });
  const bytes =
    row &&
    (size === 'mail'
      ? await mailPicture(actor.organisationId, mailed(row))
      : await files().get({ page: row.page_hash, file: row.file_hash, whole: row.hash }[size]));
  if (!bytes) throw new Refusal({ code: 'NOT_FOUND' });
  return bytes;
}
