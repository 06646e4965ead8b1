import type { Finding } from '@/core/findings';
import type { Tx } from '../pool';

/** Whom a file has left out, and the finding that kept them out; null of somebody without a published card. */
export type LeftOutRow = { record: string; finding: Finding | null };

/** A file that a job has made; none where nothing could be made. */
export type MadeFileRow = {
  job_id: string;
  organisation_id: string;
  file: string | null;
  name: string;
  bytes: number;
  left_out: LeftOutRow[];
  /** Whom it shows: it is erased with the first of them. */
  records: string[];
  created_at: Date;
};

/** Notes the file of a job, in the place of one that an earlier try of it made. */
export const keepMadeFile = (tx: Tx, row: MadeFileRow) =>
  tx('made_files')
    .insert({ ...row, left_out: JSON.stringify(row.left_out) })
    .onConflict('job_id')
    .merge();

export const madeFile = async (tx: Tx, jobId: string): Promise<MadeFileRow | undefined> =>
  tx('made_files').where({ job_id: jobId }).first();
