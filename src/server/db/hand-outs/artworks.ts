import { ArtworkSchema, type Artwork, type SideName } from '@/core/print';
import type { Tx } from '../pool';

/** One side of somebody's own design that a piece is printed on. */
export type ArtworkRow = {
  hand_out_id: string;
  side: SideName;
  organisation_id: string;
  file: string;
  /** As its file was called. */
  name: string;
  bytes: number;
  artwork: Artwork;
  created_at: Date;
};

export const artworksOf = async (tx: Tx, handOutId: string): Promise<Partial<Record<SideName, ArtworkRow>>> => {
  const rows = await tx('artworks').where({ hand_out_id: handOutId }).select<ArtworkRow[]>('*');
  return Object.fromEntries(rows.map((row) => [row.side, { ...row, artwork: ArtworkSchema.parse(row.artwork) }]));
};

/** Keeps a side, in the place of one that is there. */
export const putArtwork = (tx: Tx, { artwork, ...row }: ArtworkRow) =>
  tx('artworks')
    .insert({ ...row, artwork: JSON.stringify(artwork) })
    .onConflict(['hand_out_id', 'side'])
    .merge();

/** Gives a piece the designs of another one of the same organisation. */
export const copyArtworks = (tx: Tx, from: string, to: string) =>
  tx.raw(
    `INSERT INTO artworks (hand_out_id, side, organisation_id, file, name, bytes, artwork, created_at)
     SELECT ?, side, organisation_id, file, name, bytes, artwork, created_at FROM artworks WHERE hand_out_id = ?`,
    [to, from],
  );

export const dropArtworks = (tx: Tx, handOutId: string, sides: readonly SideName[]): Promise<number> =>
  tx('artworks').where({ hand_out_id: handOutId }).whereIn('side', sides).delete();
