import type { Ticks } from '@/core/card';
import type { Finding } from '@/core/findings';
import type { Use } from '@/core/record';
import type { Tx } from '../pool';

/** The ticks that lines of a card had, and what they said then, as hashes. */
export type MendedTicks = { ticks: Record<string, Ticks>; said: Record<string, string> };
/** What something was before it was mended: the ticks of lines of a card, or the uses of details of a record. */
export type MendedFrom = MendedTicks | { uses: Record<string, Use[]> };

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
export const keepMend = (tx: Tx, row: Omit<MendRow, 'undone_at'>) =>
  tx('mends')
    .insert({ ...row, was: row.was && JSON.stringify(row.was), problem: row.problem && JSON.stringify(row.problem) })
    .onConflict(['organisation_id', 'job_id', 'record_id', 'card_id'])
    .merge(['was', 'problem']);

export const mendsOf = async (tx: Tx, jobId: string): Promise<MendRow[]> =>
  tx('mends').where({ job_id: jobId }).orderBy(['record_id', 'card_id']);

export const setUndone = (tx: Tx, id: string, at: Date) => tx('mends').where({ id }).update({ undone_at: at });
