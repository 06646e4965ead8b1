import type { Problem } from '@/core/errors';
import type { JobState, Task } from '@/core/jobs';
import type { Db, Tx } from '../pool';

export type JobRow = {
  id: string;
  organisation_id: string;
  user_id: string;
  task: Task;
  input: Record<string, string | number>;
  state: JobState;
  done: number;
  total: number | null;
  attempts: number;
  cancel_asked: boolean;
  result: Record<string, number> | null;
  problem: Problem | null;
  created_at: Date;
  updated_at: Date;
};

/** Writes a job down and asks the queue for it, in one transaction. */
export async function insertJob(
  tx: Tx,
  row: Pick<JobRow, 'id' | 'organisation_id' | 'user_id' | 'task' | 'input' | 'total'> & { at: Date },
): Promise<void> {
  const { at, ...rest } = row;
  await tx('jobs').insert({ ...rest, input: JSON.stringify(row.input), created_at: at, updated_at: at });
  await tx.raw('SELECT enqueue_job(?, ?, ?)', [row.id, row.organisation_id, row.task]);
}

/** Jobs that ended before a time. */
export const forgetEndedJobs = (db: Db, before: Date) => db.raw('SELECT forget_ended_jobs(?)', [before]);

export const job = async (tx: Tx, id: string): Promise<(JobRow & { who: string }) | undefined> =>
  tx('jobs').join('users', 'users.id', 'jobs.user_id').where('jobs.id', id).first('jobs.*', 'users.name as who');

/** The latest jobs, of one member or of all. */
export const latestJobs = async (tx: Tx, userId: string | null, most: number): Promise<(JobRow & { who: string })[]> =>
  tx('jobs')
    .join('users', 'users.id', 'jobs.user_id')
    .modify((query) => (userId ? query.where('jobs.user_id', userId) : query))
    .orderBy('jobs.created_at', 'desc')
    .limit(most)
    .select('jobs.*', 'users.name as who');

/** The job that proves the cards under a version of the house style. */
export const jobOfHouse = async (tx: Tx, house: number): Promise<(JobRow & { who: string }) | undefined> =>
  tx('jobs')
    .join('users', 'users.id', 'jobs.user_id')
    .where('jobs.task', 'prove-cards')
    .whereRaw(`jobs.input ->> 'house' = ?`, [String(house)])
    .first('jobs.*', 'users.name as who');

/** The proofs that were asked for last after each office was saved, by the office. */
export async function jobsOfOffices(tx: Tx): Promise<Map<string, JobRow & { who: string }>> {
  const rows: (JobRow & { who: string; office: string })[] = await tx('jobs')
    .join('users', 'users.id', 'jobs.user_id')
    .where('jobs.task', 'prove-cards')
    .whereRaw(`jobs.input ->> 'office' IS NOT NULL`)
    .distinctOn(tx.raw(`jobs.input ->> 'office'`) as never)
    .orderByRaw(`jobs.input ->> 'office', jobs.created_at DESC`)
    .select('jobs.*', 'users.name as who', tx.raw(`jobs.input ->> 'office' AS office`));
  return new Map(rows.map(({ office, ...row }) => [office, row]));
}

/** Asks every job of a task to stop that has not ended, or those of one office: the waiting ones at once. */
export async function supersedeJobs(tx: Tx, task: Task, at: Date, office: string | null = null): Promise<void> {
  const jobs = (state: JobRow['state']) =>
    tx('jobs')
      .where({ task, state })
      .modify((query) => office && query.whereRaw(`input ->> 'office' = ?`, [office]));
  await jobs('waiting').update({ state: 'cancelled', cancel_asked: true, updated_at: at });
  await jobs('running').update({ cancel_asked: true, updated_at: at });
}

export const waitingJobs = async (tx: Tx): Promise<number> =>
  Number(
    (await tx('jobs').whereIn('state', ['waiting', 'running']).count<{ count: string }[]>('* as count'))[0]!.count,
  );

export const updateJob = (
  tx: Tx,
  id: string,
  row: Partial<Pick<JobRow, 'state' | 'done' | 'total' | 'attempts' | 'cancel_asked' | 'result' | 'problem'>> & {
    updated_at: Date;
  },
) =>
  tx('jobs')
    .where({ id })
    .update({
      ...row,
      ...(row.result === undefined ? {} : { result: JSON.stringify(row.result) }),
      ...(row.problem === undefined ? {} : { problem: JSON.stringify(row.problem) }),
    });

/** Writes how far a job is, and answers whether somebody has asked for it to stop. */
export async function writeProgress(
  tx: Tx,
  id: string,
  done: number,
  total: number | null,
  at: Date,
): Promise<boolean> {
  const rows = await tx('jobs')
    .where({ id })
    .update({ done, total, updated_at: at })
    .returning<{ cancel_asked: boolean }[]>('cancel_asked');
  return rows[0]?.cancel_asked ?? true;
}
