import type { Tx } from '../pool';

/** A code that was made in advance and points at no card yet: its number tells it apart, its channel says whether it stands in a tag. */
export type SpareRow = {
  code: string;
  organisation_id: string;
  placement: string;
  made_at: Date;
  number: number;
  channel: 'code' | 'tag';
};

/** The next `count` numbers of an organisation, which nobody else gets: answers with the first. */
export const takeNumbers = async (tx: Tx, organisationId: string, count: number): Promise<number> => {
  const [row] = await tx('organisations')
    .where({ id: organisationId })
    .update({ last_number: tx.raw('last_number + ?', [count]) })
    .returning<{ last_number: number }[]>('last_number');
  return row!.last_number - count + 1;
};

export async function insertSpares(tx: Tx, rows: SpareRow[]): Promise<void> {
  const codes = rows.map(({ code, organisation_id }) => ({ code, organisation_id, card_id: null, hand_out_id: null }));
  await tx('directory_codes').insert(codes);
  await tx('spare_codes').insert(rows);
}

export const countSpares = async (tx: Tx): Promise<number> =>
  Number((await tx('spare_codes').count<{ count: string }[]>())[0]!.count);

/** The newest first; those made together stand in the order of their numbers. */
export const spares = async (tx: Tx, most: number): Promise<SpareRow[]> =>
  tx('spare_codes').orderBy('made_at', 'desc').orderBy('number').limit(most);

/** The code of a number. */
export const spareNumbered = async (tx: Tx, number: number): Promise<string | undefined> =>
  (await tx('spare_codes').where({ number }).first<{ code: string } | undefined>('code'))?.code;

/** Whether a number or code of this organisation was given to a card. */
export const isGivenSpare = async (tx: Tx, by: { number: number } | { code: string }): Promise<boolean> =>
  (await tx('hand_outs').where(by).whereNotNull('number').first('id')) !== undefined;

/** Takes a spare code away for a card; undefined where there is none such. */
export const takeSpare = async (tx: Tx, code: string): Promise<SpareRow | undefined> =>
  (await tx('spare_codes').where({ code }).delete().returning<SpareRow[]>('*'))[0];

/** Has a code that pointed at no card lead to one. */
export const pointSpare = (tx: Tx, code: string, to: { card_id: string; hand_out_id: string }) =>
  tx('directory_codes').where({ code, card_id: null }).update(to);
