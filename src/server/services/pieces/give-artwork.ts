import { Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import {
  firstPlaced,
  roomsOf,
  sizeFor,
  trimOf,
  type Artworks,
  type Piece,
  type Placed,
  type SideName,
} from '@/core/print';
import { cleanLine } from '@/core/record';
import type { ShownPiece } from '@/core/shown';
import type { Clock } from '@/server/clock';
import { compute } from '@/server/compute';
import { artworksOf, dropArtworks, putArtwork } from '@/server/db/hand-outs/artworks';
import { setPiece } from '@/server/db/hand-outs/print';
import { inTenant } from '@/server/db/pool';
import { files } from '@/server/files';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise } from '@/server/services/accounts/authorise';
import { refuseBeyondQuota } from '@/server/services/organisation/quota';
import { ownOfChannel } from './parts';
import { openPiece, pieceOf } from './print';

const WANTED = { channel: 'print', action: 'hand-out.make' } as const;

type Given = { side: SideName; name: string; bytes: Buffer };

/**
 * Takes in a finished design that a piece is printed on from now on: of a document given for the front the second page is the back. The piece takes
 * the size that the design is made for, and the code a first place. Errors: NOT_ALLOWED, NOT_FOUND, FILE_TOO_LARGE, ARTWORK_UNREADABLE, ARTWORK_LAYERS,
 * DESIGN_LOCKED, QUOTA_FULL, STORE_UNAVAILABLE, TOO_BUSY, TOO_LABORIOUS, and those of {@link openPiece}.
 */
export async function giveArtwork(
  actor: Actor,
  id: string,
  { side, name, bytes }: Given,
  clock: Clock,
): Promise<ShownPiece> {
  authorise(actor, 'hand-out.make');
  await inTenant(actor, (tx) => ownOfChannel(tx, actor, id, WANTED));
  if (bytes.length > LIMITS.artworkBytes)
    throw new Refusal({ code: 'FILE_TOO_LARGE', limitBytes: LIMITS.artworkBytes });
  const pages = await compute('artwork', { bytes }, { of: actor.organisationId });
  const sides: SideName[] = side === 'front' && pages.length > 1 ? ['front', 'back'] : [side];
  const made = await Promise.all(
    sides.map(async (each, at) => ({
      ...{ side: each, artwork: pages[at]!.artwork, bytes: pages[at]!.bytes.length },
      file: await files().put(pages[at]!.bytes),
    })),
  );
  await inTenant(actor, async (tx) => {
    const { row } = await ownOfChannel(tx, actor, id, WANTED);
    await refuseBeyondQuota(
      tx,
      actor.organisationId,
      made.reduce((sum, each) => sum + each.bytes, 0),
    );
    const own = { hand_out_id: id, organisation_id: actor.organisationId, created_at: new Date(clock.now()) };
    const called = cleanLine(name).text.slice(0, LIMITS.artworkName);
    for (const each of made) await putArtwork(tx, { ...own, ...each, name: called });
    const { front, back } = await artworksOf(tx, id);
    if (!front) throw new Refusal({ code: 'INPUT', field: 'side' });
    const artworks = { front: front.artwork, back: back?.artwork ?? null };
    await setPiece(tx, id, onArtwork(pieceOf(row), artworks, side));
    await recordAudit(tx, actor, 'hand-out.styled', { kind: 'hand-out', id }, clock);
  });
  return openPiece(actor, id, clock);
}

/** A piece on its design: in the size that a front is made for, with a code on it. */
function onArtwork(piece: Piece, artworks: Artworks, side: SideName): Piece {
  const sized = (side === 'front' && sizeFor(artworks.front)) || { size: piece.size, form: piece.form };
  const next: Piece = { ...piece, ...sized, ground: 'artwork' };
  const trim = trimOf(next);
  const { margin } = roomsOf(next.size);
  // A code that would be cut off is put anew.
  const isOn = (each: Placed) =>
    each.kind === 'line' ||
    (each.x + each.widthMm <= trim.width - margin && each.y + each.widthMm <= trim.height - margin);
  const stays = piece.placed.filter((each) => (each.side === 'front' || artworks.back) && isOn(each));
  const placed = stays.some(({ kind }) => kind === 'code') ? stays : [...firstPlaced(artworks, trim, margin), ...stays];
  return { ...next, placed };
}

/** Takes a design away: the front's takes the back's with it, and the piece has the look of the card again. Errors: NOT_ALLOWED, NOT_FOUND and those of {@link openPiece}. */
export async function dropArtwork(actor: Actor, id: string, side: SideName, clock: Clock): Promise<ShownPiece> {
  authorise(actor, 'hand-out.make');
  await inTenant(actor, async (tx) => {
    const { row } = await ownOfChannel(tx, actor, id, WANTED);
    await dropArtworks(tx, id, side === 'front' ? ['front', 'back'] : ['back']);
    const { front } = await artworksOf(tx, id);
    const piece = pieceOf(row);
    const left = front && { front: front.artwork, back: null };
    await setPiece(tx, id, left ? onArtwork(piece, left, 'back') : { ...piece, ground: 'look' });
    await recordAudit(tx, actor, 'hand-out.styled', { kind: 'hand-out', id }, clock);
  });
  return openPiece(actor, id, clock);
}
