import type { Line, Ticks } from '@/core/card';
import type { Finding } from '@/core/findings';
import type { Look } from '@/core/look';
import type { Detail, Use } from '@/core/record';
import type { ShownProof } from '@/core/shown';
import type { DrawnCode } from '../hand-outs/hand-outs';
import type { Tx } from '../pool';

/** The ticks that lines of a card had, and what they said then, as hashes. */
export type MendedTicks = { ticks: Record<string, Ticks>; said: Record<string, string> };
/** What something was before it was mended: the ticks of lines of a card, or the uses of details of a record. */
export type MendedFrom = MendedTicks | { uses: Record<string, Use[]> } | ChangedFrom | { invited: true };

/**
 * What something was before it was changed with many others: details of a record (null of one that was added), what a card said, or how
 * its codes were drawn; with the version that the change left, so that what was changed since is seen.
 */
export type ChangedFrom =
  | { details: Record<string, Detail | null>; version: number }
  | { card: { lines: Line[]; look: Look } | null; codes: CodeBefore[]; version: number; publish: boolean };
export type CodeBefore = { id: string; drawn: DrawnCode | null; proof: ShownProof | null };

/** What a job has mended, or left as it was with the finding that kept it. */
export type MendRow = {
  id: string;
  organisation_id: string;
  job_id: string;
  record_id: string;
  card_id: string | null;
  was: MendedFrom | null;
  problem: Finding | null;
  undone_at: Date | null;
};

/** Notes it, in the place of what an earlier try of the job noted. */
export const keepMend = (tx: Tx, row: Omit<MendRow, 'undone_at'>) => keepMends(tx, [row]);

/** The same of several, each of another record or card. */
export const keepMends = (tx: Tx, rows: Omit<MendRow, 'undone_at'>[]) =>
  tx('mends')
    .insert(
      rows.map((row) => ({
        ...row,
        was: row.was && JSON.stringify(row.was),
        problem: row.problem && JSON.stringify(row.problem),
      })),
    )
    .onConflict(['organisation_id', 'job_id', 'record_id', 'card_id'])
    .merge(['was', 'problem']);

export const mendsOf = async (tx: Tx, jobId: string): Promise<MendRow[]> =>
  tx('mends').where({ job_id: jobId }).orderBy(['record_id', 'card_id']);

/** Of one record. */
export const mendsOfRecord = (tx: Tx, jobId: string, recordId: string): Promise<MendRow[]> =>
  mendsOfRecords(tx, jobId, [recordId]);

export const mendsOfRecords = async (tx: Tx, jobId: string, recordIds: string[]): Promise<MendRow[]> =>
  tx('mends').where({ job_id: jobId }).whereIn('record_id', recordIds).orderBy(['record_id', 'card_id']);

/** Whose records a job changed, in one order. */
export const recordsMended = async (tx: Tx, jobId: string): Promise<string[]> =>
  (
    await tx('mends')
      .where({ job_id: jobId })
      .whereNotNull('was')
      .whereNull('undone_at')
      .distinct<{ record_id: string }[]>('record_id')
      .orderBy('record_id')
  ).map(({ record_id }) => record_id);

/** How many entries of a job were changed, left and undone, and the first of those that were left. */
export async function countMends(
  tx: Tx,
  jobId: string,
  most: number,
): Promise<{ changed: number; left: number; undone: number; rows: MendRow[] }> {
  const { rows } = await tx.raw<{ rows: { changed: number; left: number; undone: number }[] }>(
    `SELECT count(DISTINCT record_id) FILTER (WHERE was IS NOT NULL)::int AS changed, count(*) FILTER (WHERE problem IS NOT NULL)::int AS left,
       count(DISTINCT record_id) FILTER (WHERE undone_at IS NOT NULL)::int AS undone FROM mends WHERE job_id = ?`,
    [jobId],
  );
  const left = await tx('mends').where({ job_id: jobId }).whereNotNull('problem').orderBy('record_id').limit(most);
  return { ...rows[0]!, rows: left };
}

export const setUndone = (tx: Tx, id: string, at: Date) => tx('mends').where({ id }).update({ undone_at: at });
