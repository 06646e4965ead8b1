import type { Problem } from '@/core/errors';

/** Work that goes on by itself, by task. */
export const TASKS = [
  'read-contacts',
  'take-contacts',
  'undo-contacts',
  'prove-cards',
  'pack-files',
  'change-many',
  'invite-people',
  'undo-change',
  'print-cards',
  'mend-privacy',
  'undo-mend',
  'review-roster',
  'run-roster',
  'undo-roster',
] as const;
export type Task = (typeof TASKS)[number];

export const JOB_STATES = ['waiting', 'running', 'done', 'failed', 'cancelled'] as const;
export type JobState = (typeof JOB_STATES)[number];

export const hasEnded = (state: JobState): boolean => state !== 'waiting' && state !== 'running';

/** What a screen shows of a job. `total` is null until it is known; instants are ISO 8601. */
export type ShownJob = {
  id: string;
  task: Task;
  /** The import that it works on. */
  import: string | null;
  /** The run of a roster that it works on. */
  roster: string | null;
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
