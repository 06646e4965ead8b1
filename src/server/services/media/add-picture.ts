import { Refusal } from '@/core/errors';
import type { Crop } from '@/core/record';
import { inTenant } from '@/server/db/pool';
import type { Clock } from '@/server/clock';
import { files } from '@/server/files';
import { log } from '@/server/log';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise } from '@/server/services/accounts/authorise';
import { lightPhoto, lightPicture } from './draw-card';
import {
  keepPicture,
  prepareBlockPicture,
  prepareCrop,
  prepareLogo,
  preparePhoto,
  readPicture,
  type PreparedPicture,
} from './pictures';

const lightOfPhoto = async (organisationId: string, { hash, page_hash }: PreparedPicture) =>
  lightPhoto(
    organisationId,
    { hash: page_hash, whole: hash, page: await files().get(page_hash), avif: null, broad: null },
    false,
  );
const lightOfBlock = (organisationId: string, { hash, page_hash }: PreparedPicture) =>
  lightPicture(organisationId, hash, { hash: page_hash, type: 'image', bytes: null });

export type AddedPicture = { picture: string; width: number; height: number };

/** Takes in a picture; the lighter form in which recipients are given it is made meanwhile, so that none of them waits for it. */
async function keep(
  actor: Actor,
  prepared: PreparedPicture,
  clock: Clock,
  light: ((organisationId: string, picture: PreparedPicture) => Promise<Buffer>) | null = null,
): Promise<AddedPicture> {
  await inTenant(actor, async (tx) => {
    await keepPicture(tx, actor.organisationId, prepared, actor.userId);
    await recordAudit(tx, actor, 'photo.added', { kind: 'picture', id: prepared.hash }, clock);
  });
  light?.(actor.organisationId, prepared).catch((error: unknown) => {
    // Where there is no time for it now, it is made when it is first asked for.
    if (!(error instanceof Refusal)) log.faultOfMany(error, {}, 'a lighter form could not be made beforehand');
  });
  return { picture: prepared.hash, width: prepared.width, height: prepared.height };
}

/** Takes in a photo for a record and answers with the hash that names it. Errors: PICTURE_UNREADABLE, PICTURE_HEIC, PICTURE_TOO_LARGE. */
export async function addPhoto(actor: Actor, bytes: Buffer, clock: Clock): Promise<AddedPicture> {
  authorise(actor, 'record.write');
  return keep(actor, await preparePhoto(bytes, actor.organisationId), clock, lightOfPhoto);
}

/** Takes in a logo, as {@link addPhoto}; a drawing (SVG) is cleaned and painted. */
export async function addLogo(actor: Actor, bytes: Buffer, clock: Clock): Promise<AddedPicture> {
  authorise(actor, 'record.write');
  return keep(actor, await prepareLogo(bytes, actor.organisationId), clock);
}

/** Takes in a picture for a block of a card, as {@link addPhoto}. */
export async function addBlockPicture(actor: Actor, bytes: Buffer, clock: Clock): Promise<AddedPicture> {
  authorise(actor, 'card.write');
  return keep(actor, await prepareBlockPicture(bytes, actor.organisationId), clock, lightOfBlock);
}

/** Cuts a square from a photo that was taken in. Errors: NOT_FOUND, PICTURE_UNREADABLE. */
export async function cropPhoto(actor: Actor, crop: Crop, clock: Clock): Promise<AddedPicture> {
  authorise(actor, 'record.write');
  const largest = await readPicture(actor, crop.from, 'whole');
  return keep(actor, await prepareCrop(largest, crop, actor.organisationId), clock, lightOfPhoto);
}
