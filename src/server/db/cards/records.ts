import { createHash } from 'node:crypto';
import { marksOf, RecordSchema, type PersonRecord } from '@/core/record';
import type { Tx } from '../pool';

export type RecordRow = {
  id: string;
  organisation_id: string;
  written_name: string;
  body: PersonRecord;
  version: number;
  updated_at: Date;
  /** Since when it is hidden; read only where what is deleted is shown. */
  deleted_at?: Date | null;
};

/** What is written of a body: itself, and by what the person is known again. */
const written = (body: PersonRecord) => ({ body: JSON.stringify(body), marks: hashedMarks(body) });

/** Marks as they stand in the database: hashes of one length, so that no index holds a person's details. */
export const hashedMark = (mark: string): string => createHash('sha256').update(mark).digest('base64url').slice(0, 16);
export const hashedMarks = (body: PersonRecord): string[] => [...new Set(marksOf(body).map(hashedMark))];

export const insertRecord = (tx: Tx, row: Omit<RecordRow, 'version'>) =>
  tx('records').insert({ ...row, ...written(row.body) });

/** A row as it stands today, whenever it was written. */
const read = <R extends Pick<RecordRow, 'body'>>(row: R): R => ({ ...row, body: RecordSchema.parse(row.body) });

export async function record(tx: Tx, id: string): Promise<RecordRow | undefined> {
  const row: RecordRow | undefined = await tx('records').where({ id }).first();
  return row && read(row);
}

/** The one record that is written with just this name; else the only one that there is. */
export async function recordNamed(tx: Tx, name: string): Promise<RecordRow | undefined> {
  const named: RecordRow[] = await tx('records').where({ written_name: name }).limit(2);
  const rows: RecordRow[] = named.length > 0 ? named : await tx('records').limit(2);
  return rows.length === 1 ? read(rows[0]!) : undefined;
}

export const recordsBy = async (tx: Tx, ids: string[]): Promise<Map<string, RecordRow>> => {
  const rows: RecordRow[] = await tx('records').whereIn('id', ids);
  return new Map(rows.map((row) => [row.id, read(row)]));
};

/** Whether a detail of these records is a picture, or was cut from it. `hash` is 64 hexadecimal digits. */
export const pictureInRecords = async (tx: Tx, ids: string[], hash: string): Promise<boolean> =>
  (await tx('records')
    .whereRaw('id = ANY (?::uuid[])', [ids])
    .whereRaw(`(body->'details' @> ?::jsonb OR body->'details' @> ?::jsonb)`, [
      JSON.stringify([{ picture: hash }]),
      JSON.stringify([{ crop: { from: hash } }]),
    ])
    .first('id')) !== undefined;

/** The version of each of these records. */
export const recordVersions = async (tx: Tx, ids: string[]): Promise<Map<string, number>> => {
  const rows: { id: string; version: number }[] = await tx('records').whereIn('id', ids).select('id', 'version');
  return new Map(rows.map(({ id, version }) => [id, version]));
};

/** Holds these records, in one order whoever does, until the end of the transaction. */
export const holdRecords = async (tx: Tx, ids: string[]): Promise<void> =>
  void (await tx('records').whereIn('id', ids).orderBy('id').forUpdate().select('id'));

/** What a list shows of a person. */
export type ListedRecord = {
  id: string;
  written_name: string;
  title: string | null;
  firm: string | null;
  picture: string | null;
};

/** Whom a list is of: of everybody or of some records alone, and with words only who is found by all of them. */
export type Listed = { within: 'all' | string[]; words: string[] };

const listed = (tx: Tx, { within, words }: Listed) =>
  tx('records as r').modify((query) => {
    if (within !== 'all') query.whereIn('r.id', within);
    if (words.length > 0) query.whereRaw('r.id IN (SELECT record_id FROM find_people(?::text[]))', [words]);
  });

/** People by name, `most` from after a place on. */
export const listedRecords = async (
  tx: Tx,
  of: Listed,
  { after, most }: { after: { name: string; id: string } | null; most: number },
): Promise<ListedRecord[]> =>
  listed(tx, of)
    .modify((query) => {
      if (after) query.whereRaw('(r.written_name, r.id) > (?, ?::uuid)', [after.name, after.id]);
    })
    .orderBy(['r.written_name', 'r.id'])
    .limit(most)
    .select('r.id', 'r.written_name', 'r.title', 'r.firm', 'r.picture');

export const listedIds = async (tx: Tx, of: Listed): Promise<string[]> =>
  (await listed(tx, of).orderBy(['r.written_name', 'r.id']).select<{ id: string }[]>('r.id')).map(({ id }) => id);

const countOf = async (query: PromiseLike<unknown>): Promise<number> =>
  Number((((await query) as { count: string }[])[0] as { count: string }).count);

export const countListed = (tx: Tx, of: Listed): Promise<number> => countOf(listed(tx, of).count('* as count'));

export const countCards = (tx: Tx): Promise<number> => countOf(tx('cards').count('* as count'));

/** The names of these records, or of all, without their details. */
export const recordNames = async (
  tx: Tx,
  ids: string[] | 'all' = 'all',
): Promise<Pick<RecordRow, 'id' | 'written_name'>[]> =>
  tx('records')
    .modify((query) => {
      if (ids !== 'all') query.whereIn('id', ids);
    })
    .select('id', 'written_name')
    .orderBy('written_name');

/** Records that have one of these marks, each with the mark. */
export const recordsMarked = async (tx: Tx, marks: string[]): Promise<{ id: string; mark: string }[]> =>
  (await tx.raw<{ rows: { id: string; mark: string }[] }>('SELECT * FROM records_marked(?::text[])', [marks])).rows;

/** Records of before marks were written down, some at a time. */
export const recordsWithoutMarks = async (tx: Tx, most: number): Promise<Pick<RecordRow, 'id' | 'body'>[]> =>
  (await tx('records').whereNull('marks').limit(most).forUpdate().select('id', 'body')).map(read);

export const writeMarks = async (tx: Tx, rows: { id: string; marks: string[] }[]): Promise<void> => {
  await tx.raw(
    `UPDATE records r SET marks = ARRAY(SELECT json_array_elements_text(m.marks))
     FROM json_to_recordset(?::json) AS m(id uuid, marks json) WHERE r.id = m.id`,
    [JSON.stringify(rows)],
  );
};

/** Writes a record if it is still at `version`; false when somebody was faster. */
export async function updateRecord(
  tx: Tx,
  id: string,
  version: number,
  row: { written_name: string; body: PersonRecord; updated_at: Date },
): Promise<boolean> {
  const changed = await tx('records')
    .where({ id, version })
    .update({ ...row, ...written(row.body), version: version + 1 });
  return changed === 1;
}

/** Removes a record that is still at `version` and its cards, if none of them was ever published; false otherwise. */
export async function deleteUntouched(tx: Tx, id: string, version: number): Promise<boolean> {
  const published = await tx('cards').where({ record_id: id }).whereNot({ state: 'draft' }).first('id');
  const same = await tx('records').where({ id, version }).forUpdate().first('id');
  if (published || !same) return false;
  await tx('cards').where({ record_id: id }).delete();
  return (await tx('records').where({ id }).delete()) === 1;
}
