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

/** Parts of a file too large to be held at once, in their order: instead of its `file`. */
export type MadePart = { file: string; bytes: number };

export async function keepMadeParts(
  tx: Tx,
  { organisation_id, job_id }: Pick<MadeFileRow, 'organisation_id' | 'job_id'>,
  parts: MadePart[],
): Promise<void> {
  await tx('made_parts').where({ job_id }).delete();
  await tx.batchInsert(
    'made_parts',
    parts.map((part, at) => ({ organisation_id, job_id, at, ...part })),
    500,
  );
}

export const madeParts = async (tx: Tx, jobId: string): Promise<MadePart[]> =>
  tx('made_parts').where({ job_id: jobId }).orderBy('at').select('file', 'bytes');

export const madeFile = async (tx: Tx, jobId: string): Promise<MadeFileRow | undefined> =>
  tx('made_files').where({ job_id: jobId }).first();
