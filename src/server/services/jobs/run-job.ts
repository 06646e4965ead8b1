import { isTransient, Refusal } from '@/core/errors';
import { hasEnded, MOST_ATTEMPTS } from '@/core/jobs';
import type { Clock } from '@/server/clock';
import { job, updateJob, writeProgress, type JobRow } from '@/server/db/jobs/jobs';
import { inTenant } from '@/server/db/pool';
import { log } from '@/server/log';
import { metrics } from '@/server/metrics';
import type { Actor } from '@/server/services/accounts/actor';
import { actorOfUser } from '@/server/services/accounts/sessions';

/** What a task gets: on whose behalf, with what, and where it tells how far it is. */
export type RunningJob = {
  id: string;
  actor: Actor;
  input: JobRow['input'];
  clock: Clock;
  /** Writes progress down; throws {@link Cancelled} when somebody has asked for the job to stop. */
  progress: (done: number, total: number | null) => Promise<void>;
};

export class Cancelled extends Error {
  override name = 'Cancelled';
}

/**
 * Runs a job that was written down, with its member's rights of today. What a service refuses ends the job with that
 * problem; anything else (the database away, the process killed) is tried again, and then it ends as unexpected. Tasks are
 * idempotent, so a second try does what the first one left.
 */
export async function runJob(
  wanted: { job: string; organisation: string },
  task: (running: RunningJob) => Promise<Record<string, number>>,
  clock: Clock,
): Promise<void> {
  const { job: id, organisation } = wanted;
  const write = (row: Parameters<typeof updateJob>[2] extends infer R ? Omit<R & object, 'updated_at'> : never) =>
    inTenant(organisation, (tx) => updateJob(tx, id, { ...row, updated_at: new Date(clock.now()) }));
  const end = async (task: string, row: Parameters<typeof write>[0]) => {
    await write(row);
    metrics().jobs.inc({ task, outcome: row.state });
  };
  const row = await inTenant(organisation, (tx) => job(tx, id));
  if (!row || hasEnded(row.state)) return;
  const attempts = row.attempts + 1;
  await write({ state: 'running', attempts });
  try {
    const actor = await actorOfUser(row.user_id, organisation);
    if (!actor) throw new Refusal({ code: 'NOT_ALLOWED' });
    const progress = async (done: number, total: number | null) => {
      const stop = await inTenant(organisation, (tx) => writeProgress(tx, id, done, total, new Date(clock.now())));
      if (stop) throw new Cancelled();
    };
    const result = await task({ id, actor, input: row.input, clock, progress });
    await end(row.task, { state: 'done', result });
  } catch (error) {
    if (error instanceof Cancelled) return void (await end(row.task, { state: 'cancelled' }));
    if (error instanceof Refusal && !isTransient(error.problem))
      return void (await end(row.task, { state: 'failed', problem: error.problem }));
    log.fault(error, { job: id, task: row.task, attempts }, 'a job failed');
    if (attempts >= MOST_ATTEMPTS)
      return void (await end(row.task, { state: 'failed', problem: { code: 'UNEXPECTED' } }));
    await write({ state: 'waiting' }).catch(() => undefined);
    throw error;
  }
}
