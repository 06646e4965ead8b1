import { randomUUID } from 'node:crypto';
import type { CopyChannel } from '@/core/shown';
import type { Carried, Published } from '@/core/wild';
import type { Tx } from '../pool';
import { recountCopies } from './count';

export type NewCopy = {
  organisation_id: string;
  card_id: string;
  hand_out_id: string | null;
  run_id: string | null;
  channel: CopyChannel;
  revision: number;
  made_at: Date;
};

const carriedRows = (organisation_id: string, copy_id: string, carried: Carried[]) =>
  carried.map((each) => ({ organisation_id, copy_id, ...each, detail: JSON.stringify(each.detail) }));

/** Writes down a copy that is out, and what it carries. */
export async function insertCopy(tx: Tx, copy: NewCopy, carried: Carried[]): Promise<void> {
  if ((await insertUncounted(tx, [{ copy, carried }])) > 0) await recountCopies(tx, { cards: [copy.card_id] });
}

/** The same of copies whose cards are counted anew right after; answers how many there were not yet. */
export async function insertUncounted(tx: Tx, all: { copy: NewCopy; carried: Carried[] }[]): Promise<number> {
  const rows = all.map((each) => ({ id: randomUUID(), ...each }));
  // A run that a job notes once more is there already, and what two take out at once one of them notes.
  const made: { id: string }[] = await tx('copies')
    .insert(rows.map(({ id, copy }) => ({ id, ...copy })))
    .onConflict()
    .ignore()
    .returning('id');
  const isNew = new Set(made.map(({ id }) => id));
  const carried = rows.flatMap(({ id, copy, carried: said }) =>
    isNew.has(id) ? carriedRows(copy.organisation_id, id, said) : [],
  );
  if (carried.length > 0) await tx('carried').insert(carried);
  return made.length;
}

/** Puts a copy in the place of those that a hand-out had before: what is pasted, downloaded or written again. */
export async function replaceCopy(tx: Tx, copy: NewCopy, carried: Carried[]): Promise<void> {
  await tx('copies').where({ hand_out_id: copy.hand_out_id, run_id: null }).delete();
  await insertCopy(tx, copy, carried);
}

/** Counts one more copy of the same revision of a hand-out, the first one with what it carries. */
export async function countCopy(tx: Tx, copy: NewCopy, carried: () => Carried[]): Promise<void> {
  const { hand_out_id, revision, channel } = copy;
  const counted = await tx('copies')
    .where({ hand_out_id, revision, channel })
    .update({ copies: tx.raw('copies + 1'), made_at: copy.made_at });
  if (counted > 0) return;
  const id = randomUUID();
  const made: { id: string }[] = await tx('copies')
    .insert({ id, ...copy, copies: 1 })
    .onConflict(tx.raw('(organisation_id, hand_out_id, revision, channel) WHERE run_id IS NULL'))
    .merge({ copies: tx.raw('copies.copies + 1') })
    .returning('id');
  // Of two who are the first, one writes what it carries.
  if (made[0]?.id !== id) return;
  await tx('carried').insert(carriedRows(copy.organisation_id, id, carried()));
  await recountCopies(tx, { cards: [copy.card_id] });
}

type PublishedRow = Published & { locked?: boolean; office_id?: string };
const publishedRows = (organisation_id: string, card_id: string | null, values: PublishedRow[]) =>
  values.map((each) => ({ organisation_id, card_id, ...each, detail: JSON.stringify(each.detail) }));

/** Writes what cards give out in the place of what they gave out before, and the lines of the house style that they leave out. */
export async function writePublished(
  tx: Tx,
  organisationId: string,
  cards: { cardId: string; hides: string[]; values: Published[] }[],
): Promise<void> {
  const ids = cards.map(({ cardId }) => cardId);
  await tx('published_values').whereIn('card_id', ids).delete();
  const rows = cards.flatMap(({ cardId, values }) => publishedRows(organisationId, cardId, values));
  if (rows.length > 0) await tx('published_values').insert(rows);
  await tx.raw(
    `UPDATE cards c SET published_hides = ARRAY(SELECT json_array_elements_text(n.hides)) FROM json_to_recordset(?::json) AS n(id uuid, hides json)
     WHERE c.id = n.id AND c.published_hides IS DISTINCT FROM ARRAY(SELECT json_array_elements_text(n.hides))`,
    [JSON.stringify(cards.map(({ cardId, hides }) => ({ id: cardId, hides })))],
  );
  await recountCopies(tx, { cards: ids });
}

/** The same of the house style; `locked` where no card may leave its lines out. */
export async function writePublishedByHouse(
  tx: Tx,
  organisationId: string,
  values: Published[],
  locked: boolean,
): Promise<void> {
  await tx('published_values').whereNull('card_id').whereNull('office_id').delete();
  const rows = values.map((each) => ({ ...each, locked }));
  if (rows.length > 0) await tx('published_values').insert(publishedRows(organisationId, null, rows));
  await recountCopies(tx, 'all');
}

/** The same of an office, on whose people's cards alone that counts. */
export async function writePublishedByOffice(
  tx: Tx,
  { organisationId, officeId, cards }: { organisationId: string; officeId: string; cards: string[] },
  values: Published[],
): Promise<void> {
  await tx('published_values').where({ office_id: officeId }).delete();
  const rows = values.map((each) => ({ ...each, office_id: officeId }));
  if (rows.length > 0) await tx('published_values').insert(publishedRows(organisationId, null, rows));
  await recountCopies(tx, { cards });
}

/** Marks a copy of a card as dealt with, or with null takes the mark away. */
export async function markCopy(
  tx: Tx,
  { id, cardId }: { id: string; cardId: string },
  done: Date | null,
): Promise<void> {
  await tx('copies').where({ id }).update({ done_at: done });
  await recountCopies(tx, { cards: [cardId] });
}

export const copyById = async (tx: Tx, id: string): Promise<{ card_id: string; channel: CopyChannel } | undefined> =>
  tx('copies').where({ id }).first('card_id', 'channel');
