import { RecordSchema, type PersonRecord } from '@/core/record';
import type { Tx } from './pool';

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

export const insertRecord = (tx: Tx, row: Omit<RecordRow, 'version'>) =>
  tx('records').insert({ ...row, body: JSON.stringify(row.body) });

/** A row as it stands today, whenever it was written. */
const read = (row: RecordRow): RecordRow => ({ ...row, body: RecordSchema.parse(row.body) });

export async function record(tx: Tx, id: string): Promise<RecordRow | undefined> {
  const row: RecordRow | undefined = await tx('records').where({ id }).first();
  return row && read(row);
}

export const recordsBy = async (tx: Tx, ids: string[]): Promise<Map<string, RecordRow>> => {
  const rows: RecordRow[] = await tx('records').whereIn('id', ids);
  return new Map(rows.map((row) => [row.id, read(row)]));
};

export const records = async (tx: Tx): Promise<Pick<RecordRow, 'id' | 'written_name' | 'body' | 'updated_at'>[]> =>
  tx('records').select('id', 'written_name', 'body', 'updated_at').orderBy('written_name');

/** The names of all records, without their details. */
export const recordNames = async (tx: Tx): Promise<Pick<RecordRow, 'id' | 'written_name'>[]> =>
  tx('records').select('id', 'written_name').orderBy('written_name');

/** Writes a record if it is still at `version`; false when somebody was faster. */
export async function updateRecord(
  tx: Tx,
  id: string,
  version: number,
  row: { written_name: string; body: PersonRecord; updated_at: Date },
): Promise<boolean> {
  const changed = await tx('records')
    .where({ id, version })
    .update({ ...row, body: JSON.stringify(row.body), version: version + 1 });
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

/** What an organisation's files take, in bytes, by what they are. */
