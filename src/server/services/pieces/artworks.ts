import { Refusal } from '@/core/errors';
import type { Piece } from '@/core/print';
import type { ShownArtwork, ShownPiece } from '@/core/shown';
import { artworksOf, type ArtworkRow } from '@/server/db/hand-outs/artworks';
import type { HandOutRow } from '@/server/db/hand-outs/hand-outs';
import { inTenant } from '@/server/db/pool';
import { files } from '@/server/files';

/** The designs that a piece is printed on, with their bytes; null where it has the look of the card. Errors: NOT_FOUND of a file that is gone, STORE_UNAVAILABLE. */
export async function artworksFor({ id, organisation_id }: HandOutRow, piece: Piece) {
  if (piece.ground === 'look') return null;
  const { front, back } = await inTenant(organisation_id, (tx) => artworksOf(tx, id));
  if (!front) return null;
  const read = async ({ file, artwork }: ArtworkRow) => {
    const bytes = await files().get(file);
    if (!bytes) throw new Refusal({ code: 'NOT_FOUND' });
    return { bytes, artwork };
  };
  return { front: await read(front), back: back ? await read(back) : null };
}

/** The designs of a piece as its screen tells of them. */
export async function shownArtworks({ id, organisation_id }: HandOutRow): Promise<ShownPiece['artworks']> {
  const { front, back } = await inTenant(organisation_id, (tx) => artworksOf(tx, id));
  const told = ({ name, bytes, artwork }: ArtworkRow): ShownArtwork => ({ name, bytes: Number(bytes), artwork });
  return front ? { front: told(front), back: back ? told(back) : null } : null;
}
