import type { Problem } from '@/core/errors';
import type { PersonRecord } from '@/core/record';
import type { Cells, Change, Decision, Outcome, Remark, RowCounts, Verdict, Written } from '@/core/roster';
import type { Tx } from '../pool';

/** A person as they were before a run changed them. */
export type Before = {
  body: PersonRecord;
  written: Written;
  staffNumber: string | null;
  joins: string | null;
  leaves: string | null;
  teams: string[];
  office?: string | null;
};

export type RosterRow = {
  organisation_id: string;
  run_id: string;
  at: number;
  cells: Cells;
  key: string | null;
  name: string;
  verdict: Verdict | null;
  remarks: Remark[];
  changes: Change[];
  decision: Decision;
  take: boolean;
  record_id: string | null;
  card_id: string | null;
  picture: string | null;
  before: Before | null;
  made_version: number | null;
  outcome: Outcome | null;
  published: boolean;
  problem: Problem | null;
  done_at: Date | null;
  undone: boolean;
};

export type JudgedRow = Pick<
  RosterRow,
  'at' | 'key' | 'name' | 'verdict' | 'remarks' | 'changes' | 'take' | 'record_id' | 'picture'
>;

export const clearRows = (tx: Tx, runId: string) => tx('roster_rows').where({ run_id: runId }).delete();

export const insertRows = (
  tx: Tx,
  of: { organisation_id: string; run_id: string },
  rows: { at: number; cells: Cells }[],
) => tx('roster_rows').insert(rows.map(({ at, cells }) => ({ ...of, at, cells: JSON.stringify(cells) })));

/** Rows for people whom a complete sheet no longer has. */
export const insertMissing = (tx: Tx, of: { organisation_id: string; run_id: string }, rows: JudgedRow[]) =>
  tx('roster_rows').insert(
    rows.map((row) => ({
      ...of,
      ...row,
      cells: '{}',
      remarks: JSON.stringify(row.remarks),
      changes: JSON.stringify(row.changes),
    })),
  );

/** What was found out about rows, all of them in one statement. */
export const writeJudged = (tx: Tx, runId: string, rows: JudgedRow[]) =>
  tx.raw(
    `UPDATE roster_rows w SET key = j.key, name = j.name, verdict = j.verdict, remarks = j.remarks, changes = j.changes, take = j.take,
       record_id = j.record_id, picture = j.picture
     FROM jsonb_to_recordset(?::jsonb) AS j(at integer, key text, name text, verdict text, remarks jsonb, changes jsonb, take boolean,
       record_id uuid, picture text)
     WHERE w.run_id = ? AND w.at = j.at`,
    [JSON.stringify(rows), runId],
  );

export const rosterRow = async (tx: Tx, runId: string, at: number): Promise<RosterRow | undefined> =>
  tx('roster_rows').where({ run_id: runId, at }).first();

export const rosterRowForUpdate = async (tx: Tx, runId: string, at: number): Promise<RosterRow | undefined> =>
  tx('roster_rows').where({ run_id: runId, at }).forUpdate().first();

export type RowsAsked = { verdict: Verdict | null; words: string; from: number; most: number };

/** A stretch of rows in the order of the sheet: of one verdict or all, whose name or key has some letters. */
export const rosterRows = async (
  tx: Tx,
  runId: string,
  { verdict, words, from, most }: RowsAsked,
): Promise<RosterRow[]> =>
  tx('roster_rows')
    .where({ run_id: runId })
    .andWhere('at', '>=', from)
    .modify((query) => {
      if (verdict) void query.where({ verdict });
      if (words) void query.whereRaw("strpos(lower(name || ' ' || coalesce(key, '')), lower(?)) > 0", [words]);
    })
    .orderBy('at')
    .limit(most);

/** The cells of every row that has not been carried out, in the order of the sheet. */
export const sheetCells = async (
  tx: Tx,
  runId: string,
): Promise<Pick<RosterRow, 'at' | 'cells' | 'decision' | 'picture' | 'key'>[]> =>
  tx('roster_rows').where({ run_id: runId }).orderBy('at').select('at', 'cells', 'decision', 'picture', 'key');

/** Places of rows by their key. */
export const rowsOfKeys = async (
  tx: Tx,
  runId: string,
  keys: string[],
): Promise<Pick<RosterRow, 'at' | 'cells' | 'decision' | 'picture' | 'key'>[]> =>
  tx('roster_rows').where({ run_id: runId }).whereIn('key', keys).select('at', 'cells', 'decision', 'picture', 'key');

export const updateRow = (
  tx: Tx,
  runId: string,
  at: number,
  row: Partial<
    Pick<
      RosterRow,
      | 'cells'
      | 'decision'
      | 'take'
      | 'record_id'
      | 'card_id'
      | 'before'
      | 'made_version'
      | 'outcome'
      | 'published'
      | 'problem'
      | 'done_at'
      | 'undone'
      | 'picture'
    >
  >,
) =>
  tx('roster_rows')
    .where({ run_id: runId, at })
    .update({
      ...row,
      ...(row.cells ? { cells: JSON.stringify(row.cells) } : {}),
      ...(row.before ? { before: JSON.stringify(row.before) } : {}),
      ...(row.problem ? { problem: JSON.stringify(row.problem) } : {}),
    });

/** Takes rows of a verdict into the run, or none of them. */
export const takeRows = (tx: Tx, runId: string, verdict: Verdict, take: boolean) =>
  tx('roster_rows').where({ run_id: runId, verdict }).whereNull('done_at').update({ take });

export const countRows = async (tx: Tx, runIds: string[]): Promise<Map<string, RowCounts>> => {
  const rows = await tx('roster_rows')
    .whereIn('run_id', runIds)
    .whereNotNull('verdict')
    .groupBy('run_id', 'verdict')
    .select<(Record<keyof RowCounts[number], string> & { run_id: string })[]>(
      'run_id',
      'verdict',
      tx.raw('count(*) AS found'),
      tx.raw('count(*) FILTER (WHERE take) AS chosen'),
      tx.raw('count(done_at) AS done'),
      tx.raw(`count(*) FILTER (WHERE outcome = 'failed') AS failed`),
      tx.raw('count(*) FILTER (WHERE undone) AS undone'),
    );
  const counted = new Map<string, RowCounts>();
  for (const { run_id, verdict, ...counts } of rows) {
    const numbers = Object.fromEntries(Object.entries(counts).map(([name, count]) => [name, Number(count)]));
    const of = { verdict: verdict as Verdict, ...(numbers as Omit<RowCounts[number], 'verdict'>) };
    counted.set(run_id, [...(counted.get(run_id) ?? []), of]);
  }
  return counted;
};

/** Places of rows that are to be carried out and are not yet, or to be published, in the order of the sheet. */
export const rowsToRun = async (tx: Tx, runId: string, publish: boolean): Promise<number[]> =>
  (
    await tx('roster_rows')
      .where({ run_id: runId, take: true })
      .where((either) => {
        void either.whereNull('done_at');
        if (publish)
          void either.orWhere((done) =>
            done.whereIn('outcome', ['made', 'changed']).where({ published: false }).whereNull('problem'),
          );
      })
      .orderBy('at')
      .select<{ at: number }[]>('at')
  ).map(({ at }) => at);

/** Places of rows that were carried out and not undone. */
export const rowsToUndo = async (tx: Tx, runId: string): Promise<number[]> =>
  (
    await tx('roster_rows')
      .where({ run_id: runId, undone: false })
      .whereIn('outcome', ['made', 'changed', 'left'])
      .orderBy('at', 'desc')
      .select<{ at: number }[]>('at')
  ).map(({ at }) => at);

/** The records that the rows of a run stand for. */
export const recordsOfRun = async (tx: Tx, runId: string): Promise<string[]> =>
  (
    await tx('roster_rows')
      .where({ run_id: runId })
      .whereNotNull('record_id')
      .distinct<{ record_id: string }[]>('record_id')
  ).map(({ record_id }) => record_id);
