import type { Problem } from '@/core/errors';

/** Work that goes on by itself, by task, with the words that screens use for it. */
export const TASKS = {
  'import-contacts': { does: 'Takes in a contact file', counts: 'contacts' },
} as const;
export type Task = keyof typeof TASKS;

export const JOB_STATES = ['waiting', 'running', 'done', 'failed', 'cancelled'] as const;
export type JobState = (typeof JOB_STATES)[number];

export const hasEnded = (state: JobState): boolean => state !== 'waiting' && state !== 'running';

/** What a screen shows of a job. `total` is null until it is known; instants are ISO 8601. */
export type ShownJob = {
  id: string;
  task: Task;
  state: JobState;
  done: number;
  total: number | null;
  attempts: number;
  cancelAsked: boolean;
  result: Record<string, number> | null;
  problem: Problem | null;
  who: string;
  created: string;
  updated: string;
};

/** A job is tried this often in all; between tries the wait grows from seconds to minutes. */
export const MOST_ATTEMPTS = 5;

/** A sentence on how far a job is. */
export function progressOf(
  job: Pick<ShownJob, 'task' | 'state' | 'done' | 'total' | 'attempts' | 'cancelAsked'>,
): string {
  const { counts } = TASKS[job.task];
  const count = job.total === null ? '' : `${job.done} of ${job.total} ${counts}`;
  if (job.state === 'running') return job.cancelAsked ? `stopping after ${count}` : count || 'begins';
  if (job.state === 'waiting') return job.attempts > 0 ? `waits to be tried again, ${count}` : 'waits its turn';
  return job.state === 'done' ? count : `${job.state} after ${count || 'nothing'}`;
}
