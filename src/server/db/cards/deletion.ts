import type { Knex } from 'knex';
import type { Stopping } from '@/core/deletion';
import type { Tx } from '../pool';
import { recountCopies } from '../wild/count';

/** A hidden card or record; seen by a transaction that shows what is deleted. */
export type DeletedRow = { id: string; record_id: string; name: string; audience: string | null; deleted_at: Date };

/** Hides a card, whose plan and findings are of no use any more. */
export async function hideCards(tx: Tx, ids: string[], at: Date): Promise<void> {
  await tx('plans').whereIn('card_id', ids).delete();
  await tx('failing_proofs').whereIn('card_id', ids).delete();
  await tx('directory_previews').whereIn('card_id', ids).delete();
  await tx('cards').whereIn('id', ids).update({ deleted_at: at });
}

export const hideRecord = (tx: Tx, id: string, at: Date) => tx('records').where({ id }).update({ deleted_at: at });

/** A card as it lies hidden, locked; undefined where it is not hidden or its record is. */
export const hiddenCard = async (tx: Tx, id: string): Promise<{ id: string; record_id: string } | undefined> =>
  tx('cards as c')
    .join('records as r', 'r.id', 'c.record_id')
    .where('c.id', id)
    .whereNotNull('c.deleted_at')
    .whereNull('r.deleted_at')
    .forUpdate('c')
    .first('c.id', 'c.record_id');

export const hiddenRecord = async (tx: Tx, id: string): Promise<{ id: string; deleted_at: Date } | undefined> =>
  tx('records').where({ id }).whereNotNull('deleted_at').forUpdate().first('id', 'deleted_at');

export async function showCard(tx: Tx, id: string): Promise<void> {
  await tx('cards').where({ id }).update({ deleted_at: null });
  await recountCopies(tx, { cards: [id] });
}

/** Shows a record again and the cards that went with it; cards that were deleted before stay so. Answers with their ids. */
export async function showRecord(tx: Tx, id: string): Promise<string[]> {
  const rows: { id: string }[] = await tx('cards')
    .where({ record_id: id })
    .where('deleted_at', tx('records').where({ id }).select('deleted_at'))
    .update({ deleted_at: null }, ['id']);
  // A staff number that somebody else has by now stays theirs.
  const taken = tx.raw(
    `CASE WHEN EXISTS (SELECT FROM records o WHERE o.staff_key = records.staff_key AND o.id <> records.id AND o.deleted_at IS NULL)
       THEN NULL ELSE staff_key END`,
  );
  await tx('records').where({ id }).update({ deleted_at: null, staff_key: taken });
  const shown = rows.map((row) => row.id);
  // The house style may be another by now.
  await recountCopies(tx, { cards: shown });
  return shown;
}

const hidden = (tx: Tx) =>
  tx('records')
    .whereNotNull('deleted_at')
    .select('id', 'id as record_id', 'written_name as name', tx.raw('NULL::text AS audience'), 'deleted_at')
    .unionAll(
      tx('cards as c')
        .join('records as r', 'r.id', 'c.record_id')
        .whereNotNull('c.deleted_at')
        .whereNull('r.deleted_at')
        .select('c.id', 'c.record_id', 'r.written_name as name', 'c.audience', 'c.deleted_at'),
    )
    .as('hidden');

export const countHidden = async (tx: Tx): Promise<number> =>
  Number(((await tx.from(hidden(tx)).count('* as count')) as { count: string }[])[0]!.count);

/** What is hidden: people, and cards of people who are not; what was deleted last comes first. */
export const hiddenRows = async (tx: Tx): Promise<DeletedRow[]> =>
  tx.select<DeletedRow[]>('*').from(hidden(tx)).orderBy('deleted_at', 'desc').orderBy('name');

/** What leads to a card, and who points at it. */
export type Leading = Omit<Stopping, 'handOuts'>;

export async function leadingTo(tx: Tx, ids: string[]): Promise<Leading[]> {
  const { rows } = await tx.raw<{ rows: (Omit<Leading, 'saves'> & { saves: string })[] }>(
    `SELECT c.id, c.audience, c.state,
       ARRAY(SELECT a.name FROM directory_addresses a WHERE a.card_id = c.id ORDER BY a.is_current DESC, a.created_at DESC) AS addresses,
       (SELECT count(*) FROM events e WHERE e.card_id = c.id AND e.kind = 'save') AS saves,
       EXISTS (SELECT FROM plans p WHERE p.card_id = c.id) AS planned,
       ARRAY(SELECT r.written_name || ' · ' || o.audience FROM cards o JOIN records r ON r.id = o.record_id
         WHERE o.instead = c.id AND o.state IN ('resting', 'retired') ORDER BY 1) AS "insteadOf"
     FROM cards c WHERE c.id = ANY(?) ORDER BY c.created_at`,
    [ids],
  );
  return rows.map((row) => ({ ...row, saves: Number(row.saves) }));
}

/** Members whose own record this is. */
export const membersOfRecord = async (tx: Tx, recordId: string): Promise<string[]> =>
  (await tx('users').where({ own_record: recordId, left_at: null }).orderBy('name').select('name')).map(
    ({ name }: { name: string }) => name,
  );

export const setOrganisationDeleted = (tx: Tx, id: string, at: Date | null) =>
  tx('organisations').where({ id }).update({ deleted_at: at });

/** Ends everybody's sessions but the one that is named, where one is. */
export const endAllSessions = (tx: Tx, except: string | null) =>
  (except === null ? tx('sessions') : tx('sessions').whereNot('id', except)).delete();

export const endAllPreviews = (tx: Tx) => tx('directory_previews').delete();

export type Erased = {
  organisation_id: string;
  kind: 'organisation' | 'record' | 'card' | 'member' | 'import';
  subject: string;
  /** Of files that it may have named. */
  hashes: string[];
  /** Why it could not be erased. */
  code: string | null;
};

/** Erases what was deleted, or left alone, before an instant; a thousand at most at a time. */
export const eraseEnded = async (db: Knex, before: Date): Promise<Erased[]> =>
  (await db.raw<{ rows: Erased[] }>('SELECT * FROM erase_ended(?)', [before])).rows;

/** Takes away rows of these files where nothing of the organisation names them any more; answers with the files that they named. */
export const forgetFilesOf = async (db: Knex, organisationId: string, hashes: string[]): Promise<string[]> =>
  (
    await db.raw<{ rows: { hash: string }[] }>('SELECT forget_files_of(?, ?) AS hash', [organisationId, hashes])
  ).rows.map(({ hash }) => hash);
