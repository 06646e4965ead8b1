import type { CardState, Draft, Line, PageParts } from '@/core/card';
import type { Language } from '@/core/language';
import type { Tx } from '../pool';
import { recountCopies } from '../wild/count';

export type CardRow = {
  id: string;
  organisation_id: string;
  record_id: string;
  audience: string;
  is_private: boolean;
  state: CardState;
  lines: Line[];
  blocks: PageParts['blocks'];
  opens: PageParts['opens'];
  words: PageParts['words'];
  look: PageParts['look'];
  language: Language | null;
  /** What a recipient reads while the card rests or after it was retired, and the colleague's card shown instead. */
  notice: string;
  instead: string | null;
  /** The starting card it was made from. */
  start: string | null;
  version: number;
  updated_at: Date;
  /** Since when it is hidden; read only where what is deleted is shown. */
  deleted_at?: Date | null;
};

export const insertCard = (
  tx: Tx,
  row: Omit<CardRow, 'version' | 'state' | 'language' | 'notice' | 'instead' | 'start' | keyof PageParts> & {
    start?: string | null;
  } & Partial<PageParts & Pick<CardRow, 'language'>>,
) => tx('cards').insert({ ...row, ...written(row) });

/** What is kept as JSON, as the driver wants it. */
const written = (row: Partial<PageParts> & { lines: Line[] }) =>
  Object.fromEntries(
    (['lines', 'blocks', 'opens', 'words', 'look'] as const).flatMap((name) =>
      row[name] === undefined ? [] : [[name, JSON.stringify(row[name])]],
    ),
  );

export const card = async (tx: Tx, id: string): Promise<CardRow | undefined> => tx('cards').where({ id }).first();

/** The card, locked until the end of the transaction. */
export const cardForUpdate = async (tx: Tx, id: string): Promise<CardRow | undefined> =>
  tx('cards').where({ id }).forUpdate().first();

/** The first published card of each of these people, in the order in which they were made, by the person. */
export const firstPublished = async (tx: Tx, recordIds: string[]): Promise<Map<string, string>> => {
  const rows: { record_id: string; id: string }[] = await tx('cards')
    .whereIn('record_id', recordIds)
    .where({ state: 'published' })
    .orderBy('created_at', 'desc')
    .select('record_id', 'id');
  return new Map(rows.map(({ record_id, id }) => [record_id, id]));
};

/** What a list shows of the cards of these people, in the order in which they were made. */
export const listedCards = async (
  tx: Tx,
  recordIds: string[],
): Promise<Pick<CardRow, 'id' | 'record_id' | 'audience' | 'state' | 'updated_at'>[]> =>
  tx('cards')
    .whereIn('record_id', recordIds)
    .orderBy('created_at')
    .select('id', 'record_id', 'audience', 'state', 'updated_at');

/** Whose these cards are. */
export const cardOwners = async (tx: Tx, ids: string[]): Promise<Pick<CardRow, 'id' | 'record_id'>[]> =>
  tx('cards').whereIn('id', ids).select('id', 'record_id');

/** These cards with whose they are and their names. */
export const namedCards = async (
  tx: Tx,
  ids: string[],
): Promise<(Pick<CardRow, 'id' | 'record_id' | 'audience'> & { written_name: string })[]> =>
  tx('cards as c')
    .join('records as r', 'r.id', 'c.record_id')
    .whereIn('c.id', ids)
    .select('c.id', 'c.record_id', 'c.audience', 'r.written_name');

/** Cards that are out. */
export const publishedCards = async (tx: Tx): Promise<string[]> =>
  (await tx('cards').where({ state: 'published' }).orderBy('id').select<{ id: string }[]>('id')).map(({ id }) => id);

/** The cards that were changed last, those that are out first, each with how many lines it has. */
export const newestCards = async (tx: Tx, most: number): Promise<{ id: string; lines: number }[]> =>
  tx('cards')
    .whereNot({ state: 'retired' })
    .orderByRaw(`state = 'published' DESC, updated_at DESC, id`)
    .limit(most)
    .select('id', tx.raw('jsonb_array_length(lines) AS lines'));

/** Whether a card of these records shows a file in its blocks or first of all. `hash` is 64 hexadecimal digits. */
export const shownOnCardOf = async (tx: Tx, recordIds: string[], hash: string): Promise<boolean> =>
  (await tx('cards')
    .whereRaw('record_id = ANY (?::uuid[])', [recordIds])
    .whereRaw(`(blocks::text LIKE ? OR opens::text LIKE ? OR look::text LIKE ?)`, Array(3).fill(`%${hash}%`))
    .first('id')) !== undefined;

export const cardsOfRecord = async (tx: Tx, recordId: string): Promise<CardRow[]> =>
  tx('cards').where({ record_id: recordId }).orderBy('created_at');

export const cardIdsOf = async (tx: Tx, recordIds: string[]): Promise<string[]> =>
  (await tx('cards').whereIn('record_id', recordIds).orderBy('created_at').select<{ id: string }[]>('id')).map(
    ({ id }) => id,
  );

/** Writes a card if it is still at `version`; false when somebody was faster. */
export async function updateCard(
  tx: Tx,
  id: string,
  version: number,
  row: Draft & { updated_at: Date },
): Promise<boolean> {
  const changed = await tx('cards')
    .where({ id, version })
    .update({ ...row, ...written(row), version: version + 1 });
  return changed === 1;
}

export async function setCardState(
  tx: Tx,
  id: string,
  row: { state: CardState; notice?: string; instead?: string | null },
): Promise<void> {
  await tx('cards').where({ id }).update(row);
  await recountCopies(tx, { cards: [id] });
}

export const cardsBy = async (tx: Tx, ids: string[]): Promise<CardRow[]> =>
  tx('cards').whereIn('id', ids).orderBy('id');

/** These cards, which nobody publishes until the end of the transaction. */
export const cardsForShare = async (tx: Tx, ids: string[]): Promise<CardRow[]> =>
  tx('cards').whereIn('id', ids).orderBy('id').forShare();

/** Holds these cards, in one order whoever does, until the end of the transaction. */
export const holdCards = async (tx: Tx, ids: string[]): Promise<void> =>
  void (await tx('cards').whereIn('id', ids).orderBy('id').forUpdate().select('id'));

/** The versions of a card and its record, by which a table sees that somebody else has saved. */
export const versionsOf = async (
  tx: Tx,
  id: string,
): Promise<{ record_id: string; card: number; record: number; state: CardState } | undefined> =>
  tx('cards as c')
    .join('records as r', 'r.id', 'c.record_id')
    .where('c.id', id)
    .first('c.record_id', 'c.version as card', 'r.version as record', 'c.state');
