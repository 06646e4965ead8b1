import type { Task } from '@/core/jobs';
import type { RunningJob } from '@/server/services/run-job';
import { importContacts } from './import-contacts';

/** Every task by its name: what runs a job that was asked for under it. */
export const JOB_TASKS: Record<Task, (running: RunningJob) => Promise<Record<string, number>>> = {
  'import-contacts': importContacts,
};
