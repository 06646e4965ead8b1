import type { Tx } from './pool';

export type HandOutRow = {
  id: string;
  organisation_id: string;
  card_id: string;
  code: string;
  placement: string;
  /** A live one holds a link; a frozen one the very bytes, base64, of this revision. */
  channel: 'code' | 'tag';
  frozen: string | null;
  revision: number | null;
  created_at: Date;
};

export const insertHandOut = (tx: Tx, row: HandOutRow) => tx('hand_outs').insert(row);

export const handOut = async (tx: Tx, id: string): Promise<HandOutRow | undefined> =>
  tx('hand_outs').where({ id }).first();

export const handOutsOfCard = async (tx: Tx, cardId: string): Promise<HandOutRow[]> =>
  tx('hand_outs').where({ card_id: cardId }).orderBy('created_at');

/** These hand-outs with whose they are. */
export const namedHandOuts = async (
  tx: Tx,
  ids: string[],
): Promise<(Pick<HandOutRow, 'id' | 'card_id' | 'placement'> & { written_name: string; audience: string })[]> =>
  tx('hand_outs as h')
    .join('cards as c', 'c.id', 'h.card_id')
    .join('records as r', 'r.id', 'c.record_id')
    .whereIn('h.id', ids)
    .select('h.id', 'h.card_id', 'h.placement', 'r.written_name', 'c.audience');
