import { OfficeLinesSchema, type HouseLine, type Office } from '@/core/house';
import { touchCards } from '../cards/directory';
import { STILL_OUT } from '../wild/public-now';
import type { Tx } from '../pool';

const read = <T extends { lines: HouseLine[] }>(row: T | undefined): T | undefined =>
  row && { ...row, lines: OfficeLinesSchema.parse(row.lines) };

const latest = (tx: Tx) =>
  tx('offices as o')
    .join('office_versions as v', (on) => on.on('v.office_id', 'o.id').andOn('v.number', 'o.number'))
    .select<Office[]>('o.id', 'o.name', 'o.number', 'v.lines');

/** All offices with how many people each has, by name. */
export const offices = async (tx: Tx): Promise<(Office & { people: number })[]> => {
  const rows: (Office & { people: string })[] = await latest(tx)
    .select(tx.raw('(SELECT count(*) FROM records r WHERE r.office_id = o.id) AS people'))
    .orderByRaw('lower(o.name)');
  return rows.map((row) => ({ ...read(row)!, people: Number(row.people) }));
};

/** The office to which a record belongs. */
export const officeOfRecord = async (tx: Tx, recordId: string): Promise<Office | undefined> =>
  (await officesOfRecords(tx, [recordId])).get(recordId);

/** The office of each of these records that belongs to one; those of one office share it. */
export async function officesOfRecords(tx: Tx, recordIds: string[]): Promise<Map<string, Office>> {
  const of: { id: string; office_id: string }[] = await tx('records')
    .whereIn('id', recordIds)
    .whereNotNull('office_id')
    .select('id', 'office_id');
  if (of.length === 0) return new Map();
  const rows = await latest(tx).whereIn('o.id', [...new Set(of.map(({ office_id }) => office_id))]);
  const byId = new Map(rows.map((row) => [row.id, read(row)!]));
  return new Map(of.flatMap(({ id, office_id }) => (byId.has(office_id) ? [[id, byId.get(office_id)!]] : [])));
}

/** An office as it was in a version. */
export const officeVersion = async (tx: Tx, id: string, number: number): Promise<{ lines: HouseLine[] } | undefined> =>
  read(await tx('office_versions').where({ office_id: id, number }).first('lines'));

export const officeForUpdate = async (tx: Tx, id: string): Promise<{ number: number } | undefined> =>
  tx('offices').where({ id }).forUpdate().first('number');

/** Names of all offices, by themselves in lower case. */
export const officeNames = async (tx: Tx): Promise<{ id: string; name: string }[]> =>
  tx('offices').orderByRaw('lower(name)').select('id', 'name');

/** How many copies, neither dealt with nor given up, carry what each office says now. */
export const copiesOfOffices = async (tx: Tx): Promise<Map<string, number>> => {
  const { rows } = await tx.raw<{ rows: { office_id: string; count: number }[] }>(
    `SELECT v.office_id, count(DISTINCT c.id)::int AS count FROM published_values v
     JOIN records r ON r.office_id = v.office_id JOIN cards o ON o.record_id = r.id JOIN copies c ON c.card_id = o.id
     JOIN carried k ON k.copy_id = c.id AND k.kind = v.kind AND k.value = v.value
     LEFT JOIN hand_outs h ON h.id = c.hand_out_id WHERE ${STILL_OUT} GROUP BY v.office_id`,
  );
  return new Map(rows.map(({ office_id, count }) => [office_id, count]));
};

export type OfficeRow = Pick<Office, 'id' | 'name' | 'number' | 'lines'> & {
  organisation_id: string;
  saved_by: string;
  saved_at: Date;
};

/** Writes a further version of an office, or its first one. */
export async function writeOffice(tx: Tx, row: OfficeRow): Promise<void> {
  const { id, name, number, organisation_id, lines, saved_by, saved_at } = row;
  if (number === 1) await tx('offices').insert({ id, organisation_id, name, number });
  else await tx('offices').where({ id }).update({ name, number });
  const version = { organisation_id, office_id: id, number, lines: JSON.stringify(lines), saved_by, saved_at };
  await tx('office_versions').insert(version);
}

export const deleteOffice = (tx: Tx, id: string) => tx('offices').where({ id }).delete();

/** Has people belong to an office, or to none. */
export const setOffice = (tx: Tx, records: string[], officeId: string | null) =>
  tx('records').whereIn('id', records).update({ office_id: officeId });

/** The people of an office. */
export const peopleOfOffice = async (tx: Tx, officeId: string): Promise<string[]> =>
  (await tx('records').where({ office_id: officeId }).orderBy('id').select<{ id: string }[]>('id')).map(({ id }) => id);

/** Those of these cards, or of an office’s people, that are out. */
export const publishedOfOffice = async (tx: Tx, officeId: string): Promise<string[]> =>
  (
    await tx('cards as c')
      .join('records as r', 'r.id', 'c.record_id')
      .where({ 'r.office_id': officeId, 'c.state': 'published' })
      .orderBy('c.id')
      .select<{ id: string }[]>('c.id')
  ).map(({ id }) => id);

/** Has every process see that its copies of the cards of these people are old; answers with how many cards that are. */
export const touchCardsOf = async (tx: Tx, records: string[]): Promise<number> =>
  touchCards(
    tx,
    (await tx('cards').whereIn('record_id', records).select<{ id: string }[]>('id')).map(({ id }) => id),
  );
