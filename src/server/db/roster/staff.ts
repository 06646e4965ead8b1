import type { PersonRecord } from '@/core/record';
import { RecordSchema } from '@/core/record';
import { staffKey, type Written } from '@/core/roster';
import { hashedMark, recordsMarked } from '../cards/records';
import type { Db, Tx } from '../pool';

/** A person as a roster knows them; days as ISO 8601, teams by name. */
export type StaffRow = {
  id: string;
  version: number;
  body: PersonRecord;
  staff_number: string | null;
  staff_key: string | null;
  joins_on: string | null;
  leaves_on: string | null;
  left_on: string | null;
  /** Since when it is hidden; read only where what is deleted is shown. */
  deleted_at: Date | null;
  /** What a roster wrote last, the card that it made, and the card that a leaver’s cards lead to. */
  roster: { written?: Written; card?: string; instead?: string | null };
  teams: string[];
  /** Of the office, its name. */
  office: string | null;
};

const DAYS = (tx: Tx) =>
  (['joins_on', 'leaves_on', 'left_on'] as const).map((column) =>
    tx.raw(`to_char(${column}, 'YYYY-MM-DD') AS ${column}`),
  );

const read = (row: StaffRow): StaffRow => ({ ...row, body: RecordSchema.parse(row.body) });
const staff = (tx: Tx) =>
  tx('records as r').select<StaffRow[]>(
    'r.id',
    'r.version',
    'r.body',
    'r.staff_number',
    'r.staff_key',
    ...DAYS(tx),
    'r.roster',
    'r.deleted_at',
    tx.raw(
      `ARRAY(SELECT t.name FROM team_members m JOIN teams t ON t.id = m.team_id WHERE m.record_id = r.id ORDER BY t.name) AS teams,
       (SELECT o.name FROM offices o WHERE o.id = r.office_id) AS office`,
    ),
  );

export const staffById = async (tx: Tx, id: string): Promise<StaffRow | undefined> => {
  const [row] = await staff(tx).where('r.id', id);
  return row && read(row);
};

/** Somebody as they are now, until the end of the transaction. */
export const staffForUpdate = async (tx: Tx, id: string): Promise<StaffRow | undefined> => {
  await tx('records').where({ id }).forUpdate().select('id');
  return staffById(tx, id);
};

/** Whom these staff numbers name, by their keys. */
export async function staffByNumber(tx: Tx, numbers: string[]): Promise<Map<string, StaffRow>> {
  const rows = await staff(tx).whereIn('r.staff_key', [...new Set(numbers.map(staffKey))]);
  return new Map(rows.map((row) => [row.staff_key!, read(row)]));
}

/** Whom these mail addresses name; an address that several people have names nobody. */
export async function staffByMail(tx: Tx, mails: string[]): Promise<Map<string, StaffRow>> {
  const marks = new Map(mails.map((mail) => [hashedMark(`mail ${mail}`), mail]));
  const ids = new Map<string, string[]>();
  for (const { id, mark } of await recordsMarked(tx, [...marks.keys()]))
    ids.set(marks.get(mark)!, [...(ids.get(marks.get(mark)!) ?? []), id]);
  const sure = [...ids].flatMap(([mail, of]) => (of.length === 1 ? [[mail, of[0]!] as const] : []));
  const rows = await staff(tx).whereIn(
    'r.id',
    sure.map(([, id]) => id),
  );
  const byId = new Map(rows.map((row) => [row.id, read(row)]));
  return new Map(sure.flatMap(([mail, id]) => (byId.has(id) ? [[mail, byId.get(id)!] as const] : [])));
}

/** How many people have each of these names, whatever its letters' case; the first of them by id. */
export async function namesakes(tx: Tx, names: string[]): Promise<Map<string, string[]>> {
  const wanted = [...new Set(names.map((name) => name.toLowerCase()))];
  const rows: { id: string; name: string }[] = await tx('records')
    .whereIn(tx.raw('lower(written_name)') as never, wanted)
    .select('id', tx.raw('lower(written_name) AS name'));
  const found = new Map<string, string[]>();
  for (const { id, name } of rows) found.set(name, [...(found.get(name) ?? []), id]);
  return found;
}

/** Everybody whom a roster knows and who has not left, of the company or of a team: ids, names, and the day on which they leave. */
export const wholeStaff = async (
  tx: Tx,
  team: string | null,
): Promise<{ id: string; written_name: string; leaves_on: string | null }[]> =>
  tx('records as r')
    .whereNotNull('r.staff_key')
    .modify((query) => {
      if (team) void query.whereIn('r.id', tx('team_members').where({ team_id: team }).select('record_id'));
    })
    .orderBy('r.written_name')
    .select('r.id', 'r.written_name', tx.raw(`to_char(r.leaves_on, 'YYYY-MM-DD') AS leaves_on`));

/** What a roster knows of a person besides the record itself. */
export const writeStaff = (
  tx: Tx,
  id: string,
  row: Partial<Pick<StaffRow, 'staff_number' | 'joins_on' | 'leaves_on' | 'left_on' | 'roster'>>,
) => {
  const number = row.staff_number;
  return tx('records')
    .where({ id })
    .update({
      ...row,
      ...(number === undefined ? {} : { staff_key: number === null ? null : staffKey(number) }),
      ...(row.roster ? { roster: JSON.stringify(row.roster) } : {}),
    });
};

/** Takes a staff number from whoever else has it: somebody new has it by now. */
export const releaseNumber = (tx: Tx, number: string) =>
  tx('records')
    .where({ staff_key: staffKey(number) })
    .update({ staff_number: null, staff_key: null });

/** Whose last day has come, in any organisation. */
export const dueLeavers = async (db: Db, at: Date): Promise<{ organisation_id: string; record_id: string }[]> =>
  (await db.raw<{ rows: { organisation_id: string; record_id: string }[] }>('SELECT * FROM due_leavers(?)', [at])).rows;

/** Ends the sign-in of whoever a record is of, owners aside; answers with their ids. */
export const endSignIn = async (tx: Tx, recordId: string, at: Date): Promise<string[]> =>
  (
    await tx('users')
      .where({ own_record: recordId })
      .whereNull('left_at')
      .whereNot({ role: 'owner' })
      .update({ left_at: at }, ['id'])
  ).map(({ id }: { id: string }) => id);

/** What people have as title, department, firm and team, the most frequent first. */
export async function choicesOf(
  tx: Tx,
  most: number,
): Promise<Record<'title' | 'department' | 'firm' | 'team' | 'office', string[]>> {
  const from = async (column: string) => {
    const rows: { said: string }[] = await tx('records as r')
      .whereNotNull(column)
      .groupBy(column)
      .orderByRaw('count(*) DESC')
      .limit(most)
      .select(`${column} as said`);
    return rows.map(({ said }) => said);
  };
  const { rows: units } = await tx.raw<{ rows: { said: string }[] }>(
    `SELECT d->'units'->>0 AS said FROM records r, jsonb_array_elements(r.body->'details') d
     WHERE d->>'kind' = 'organisation' AND d->'units'->>0 IS NOT NULL GROUP BY 1 ORDER BY count(*) DESC LIMIT ?`,
    [most],
  );
  const teams: { name: string }[] = await tx('teams').orderBy('name').limit(most).select('name');
  const offices: { name: string }[] = await tx('offices').orderBy('name').limit(most).select('name');
  return {
    office: offices.map(({ name }) => name),
    title: await from('r.title'),
    firm: await from('r.firm'),
    department: units.map(({ said }) => said),
    team: teams.map(({ name }) => name),
  };
}
