import type { Db, Tx } from '../pool';

/** A link by which a designer fetches what a piece is made of; of its secret only the hash is kept. */
export type DesignerLinkRow = {
  id: string;
  organisation_id: string;
  hand_out_id: string;
  token_hash: Buffer;
  ends_at: Date;
  /** How often it was fetched. */
  fetched: number;
  created_at: Date;
};

export const insertDesignerLink = (tx: Tx, row: Omit<DesignerLinkRow, 'fetched'>) => tx('designer_links').insert(row);

/** Links of a piece that hold or have ended lately, the latest first. */
export const designerLinksOf = async (tx: Tx, handOutId: string, most: number): Promise<DesignerLinkRow[]> =>
  tx('designer_links').where({ hand_out_id: handOutId }).orderBy('created_at', 'desc').limit(most).select('*');

export const endDesignerLink = (tx: Tx, handOutId: string, id: string): Promise<number> =>
  tx('designer_links').where({ id, hand_out_id: handOutId }).delete();

/** Forgets links of a piece that ended before. */
export const forgetEndedLinks = (tx: Tx, handOutId: string, before: Date) =>
  tx('designer_links').where({ hand_out_id: handOutId }).where('ends_at', '<', before).delete();

export const countFetched = (tx: Tx, id: string) => tx('designer_links').where({ id }).increment('fetched', 1);

/** A link by the hash of its secret, whoever asks. */
export const designerLinkBy = async (
  db: Db,
  tokenHash: Buffer,
): Promise<Pick<DesignerLinkRow, 'id' | 'organisation_id' | 'hand_out_id' | 'ends_at'> | undefined> => {
  const { rows } = await db.raw<{ rows: DesignerLinkRow[] }>('SELECT * FROM designer_link_by(?)', [tokenHash]);
  return rows[0];
};
