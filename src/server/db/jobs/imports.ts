import type { EntryCounts, ImportState, Verdict } from '@/core/imports';
import type { PersonRecord } from '@/core/record';
import type { Warning } from '@/core/vcard';
import type { Tx } from '../pool';

export type ImportRow = {
  id: string;
  organisation_id: string;
  user_id: string;
  file_name: string;
  file: string | null;
  bytes: number;
  state: ImportState;
  warnings: Warning[];
  job_id: string | null;
  created_at: Date;
  updated_at: Date;
};

export type EntryRow = {
  organisation_id: string;
  import_id: string;
  at: number;
  line: number;
  name: string;
  verdict: Verdict;
  record_id: string | null;
  body: PersonRecord;
  has_photo: boolean;
  warnings: Warning[];
  too_large: string[];
  take: boolean;
  chosen: string[];
  made_record: string | null;
  made_card: string | null;
  made_version: number | null;
  before: PersonRecord | null;
  undone: boolean;
};
export type NewEntry = Omit<EntryRow, 'made_record' | 'made_card' | 'made_version' | 'before' | 'undone'>;

export const insertImport = (tx: Tx, row: Omit<ImportRow, 'warnings' | 'state'>) => tx('imports').insert(row);

export const importOf = async (tx: Tx, id: string): Promise<ImportRow | undefined> =>
  tx('imports').where({ id }).first();

/** The import, locked until the end of the transaction. */
export const importForUpdate = async (tx: Tx, id: string): Promise<ImportRow | undefined> =>
  tx('imports').where({ id }).forUpdate().first();

export const updateImport = (
  tx: Tx,
  id: string,
  row: Partial<Pick<ImportRow, 'state' | 'warnings' | 'job_id' | 'file'>> & { updated_at: Date },
) =>
  tx('imports')
    .where({ id })
    .update({ ...row, ...(row.warnings ? { warnings: JSON.stringify(row.warnings) } : {}) });

export const clearEntries = (tx: Tx, importId: string) => tx('import_entries').where({ import_id: importId }).delete();

export const insertEntries = (tx: Tx, rows: NewEntry[]) =>
  tx('import_entries').insert(
    rows.map((row) => ({
      ...row,
      body: JSON.stringify(row.body),
      warnings: JSON.stringify(row.warnings),
      too_large: JSON.stringify(row.too_large),
      chosen: JSON.stringify(row.chosen),
    })),
  );

export const entry = async (tx: Tx, importId: string, at: number): Promise<EntryRow | undefined> =>
  tx('import_entries').where({ import_id: importId, at }).first();

/** A stretch of an import's entries, those of one verdict or all, in the order of the file. */
export const entriesFrom = async (
  tx: Tx,
  importId: string,
  { verdict, from, most }: { verdict: Verdict | null; from: number; most: number },
): Promise<EntryRow[]> =>
  tx('import_entries')
    .where({ import_id: importId })
    .andWhere('at', '>=', from)
    .modify((query) => (verdict ? query.where({ verdict }) : query))
    .orderBy('at')
    .limit(most);

export const countEntries = async (tx: Tx, importId: string): Promise<EntryCounts[]> => {
  const rows = await tx('import_entries')
    .where({ import_id: importId })
    .groupBy('verdict')
    .select<Record<keyof EntryCounts, string>[]>(
      'verdict',
      tx.raw('count(*) AS found'),
      tx.raw('count(*) FILTER (WHERE take) AS chosen'),
      tx.raw('count(made_record) AS made'),
      tx.raw('count(*) FILTER (WHERE undone) AS undone'),
    );
  return rows.map((row) => ({
    verdict: row.verdict as Verdict,
    found: Number(row.found),
    chosen: Number(row.chosen),
    made: Number(row.made),
    undone: Number(row.undone),
  }));
};

export const chooseEntry = (tx: Tx, importId: string, at: number, row: { take?: boolean; chosen?: string[] }) =>
  tx('import_entries')
    .where({ import_id: importId, at })
    .update({ ...row, ...(row.chosen ? { chosen: JSON.stringify(row.chosen) } : {}) });

export const chooseAll = (tx: Tx, importId: string, verdict: Verdict, take: boolean) =>
  tx('import_entries').where({ import_id: importId, verdict }).update({ take });

export const markMade = (
  tx: Tx,
  importId: string,
  at: number,
  row: Pick<EntryRow, 'made_record' | 'made_card' | 'made_version' | 'before'>,
) =>
  tx('import_entries')
    .where({ import_id: importId, at })
    .update({ ...row, before: row.before ? JSON.stringify(row.before) : null });

export const markUndone = (tx: Tx, importId: string, at: number) =>
  tx('import_entries').where({ import_id: importId, at }).update({ undone: true });

/** The bodies are of use until the import was undone or can no longer be; names and counts stay. */
export const forgetBodies = (tx: Tx, importId: string) =>
  tx('import_entries')
    .where({ import_id: importId })
    .update({ body: JSON.stringify({ name: {}, details: [], kept: [] }), before: null, chosen: '[]' });
