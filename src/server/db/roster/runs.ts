import type { Column, RunOptions, RunState, SheetPlace } from '@/core/roster';
import type { Db, Tx } from '../pool';

export type RunRow = {
  id: string;
  organisation_id: string;
  user_id: string;
  name: string;
  card_id: string | null;
  columns: Column[];
  place: SheetPlace;
  options: RunOptions;
  state: RunState;
  job_id: string | null;
  created_at: Date;
  updated_at: Date;
  forgotten: boolean;
};

export const insertRun = (tx: Tx, row: Omit<RunRow, 'job_id' | 'forgotten'>) =>
  tx('roster_runs').insert({
    ...row,
    columns: JSON.stringify(row.columns),
    place: JSON.stringify(row.place),
    options: JSON.stringify(row.options),
  });

const withWho = (tx: Tx) => tx('roster_runs as u').join('users', 'users.id', 'u.user_id');

export const run = async (tx: Tx, id: string): Promise<(RunRow & { who: string }) | undefined> =>
  withWho(tx).where('u.id', id).first('u.*', 'users.name as who');

/** The run, locked until the end of the transaction. */
export const runForUpdate = async (tx: Tx, id: string): Promise<RunRow | undefined> =>
  tx('roster_runs').where({ id }).forUpdate().first();

/** The latest runs, the newest first. */
export const latestRuns = async (tx: Tx, most: number): Promise<(RunRow & { who: string })[]> =>
  withWho(tx).orderBy('u.created_at', 'desc').limit(most).select('u.*', 'users.name as who');

export const updateRun = (
  tx: Tx,
  id: string,
  row: Partial<Pick<RunRow, 'state' | 'job_id' | 'options' | 'place' | 'name'>> & { updated_at: Date },
) =>
  tx('roster_runs')
    .where({ id })
    .update({
      ...row,
      ...(row.options ? { options: JSON.stringify(row.options) } : {}),
      ...(row.place ? { place: JSON.stringify(row.place) } : {}),
    });

export const deleteRun = (tx: Tx, id: string) => tx('roster_runs').where({ id }).delete();

/** What sheets said is forgotten once a run can no longer be undone; a run that was never carried out goes as a whole. */
export const forgetRosters = (db: Db, before: Date) => db.raw('SELECT forget_rosters(?)', [before]);

export type MappingRow = { id: string; organisation_id: string; name: string; columns: Column[]; updated_at: Date };

export const mappings = async (tx: Tx): Promise<MappingRow[]> =>
  tx('roster_mappings').orderBy('updated_at', 'desc').select('id', 'organisation_id', 'name', 'columns', 'updated_at');

/** Keeps a mapping under its name, over the one of before. */
export const keepMapping = (tx: Tx, row: MappingRow) =>
  tx.raw(
    `INSERT INTO roster_mappings (id, organisation_id, name, columns, updated_at) VALUES (?, ?, ?, ?, ?)
     ON CONFLICT (organisation_id, lower(name)) DO UPDATE SET name = excluded.name, columns = excluded.columns, updated_at = excluded.updated_at`,
    [row.id, row.organisation_id, row.name, JSON.stringify(row.columns), row.updated_at],
  );

export const deleteMapping = (tx: Tx, id: string) => tx('roster_mappings').where({ id }).delete();
