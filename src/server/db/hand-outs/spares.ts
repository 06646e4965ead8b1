import type { Tx } from '../pool';

/** A code that was made in advance and points at no card yet. */
export type SpareRow = { code: string; organisation_id: string; placement: string; made_at: Date };

export async function insertSpares(tx: Tx, rows: SpareRow[]): Promise<void> {
  const codes = rows.map(({ code, organisation_id }) => ({ code, organisation_id, card_id: null, hand_out_id: null }));
  await tx('directory_codes').insert(codes);
  await tx('spare_codes').insert(rows);
}

export const countSpares = async (tx: Tx): Promise<number> =>
  Number((await tx('spare_codes').count<{ count: string }[]>())[0]!.count);

/** The newest first; those made together stand in the order of their letters. */
export const spares = async (tx: Tx, most: number): Promise<SpareRow[]> =>
  tx('spare_codes').orderBy('made_at', 'desc').orderBy('code').limit(most);

/** Takes a spare code away for a card; undefined where there is none such. */
export const takeSpare = async (tx: Tx, code: string): Promise<SpareRow | undefined> =>
  (await tx('spare_codes').where({ code }).delete().returning<SpareRow[]>('*'))[0];

/** Has a code that pointed at no card lead to one. */
export const pointSpare = (tx: Tx, code: string, to: { card_id: string; hand_out_id: string }) =>
  tx('directory_codes').where({ code, card_id: null }).update(to);
