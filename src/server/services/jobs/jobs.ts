import { randomUUID } from 'node:crypto';
import { Refusal } from '@/core/errors';
import { hasEnded, type ShownJob, type Task } from '@/core/jobs';
import { LIMITS } from '@/core/limits';
import type { Clock } from '@/server/clock';
import { insertJob, job, latestJobs, updateJob, waitingJobs, type JobRow } from '@/server/db/jobs/jobs';
import { countAlone } from '@/server/db/locks';
import { inTenant, type Tx } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise } from '@/server/services/accounts/authorise';

/** Writes a job down for the queue, within the transaction of whoever asks for it. Error: TOO_MANY_JOBS. */
export async function askForJob(
  tx: Tx,
  actor: Actor,
  wanted: { task: Task; input: JobRow['input']; total: number | null },
  clock: Clock,
): Promise<string> {
  await countAlone(tx, actor.organisationId, 'jobs');
  if ((await waitingJobs(tx)) >= LIMITS.jobsWaiting)
    throw new Refusal({ code: 'TOO_MANY_JOBS', limit: LIMITS.jobsWaiting });
  const id = randomUUID();
  const at = new Date(clock.now());
  await insertJob(tx, { id, organisation_id: actor.organisationId, user_id: actor.userId, ...wanted, at });
  await recordAudit(tx, actor, 'job.asked', { kind: 'job', id }, clock, { task: wanted.task, total: wanted.total });
  return id;
}

/** A job as screens show it. */
export const shownJob = (row: JobRow & { who: string }): ShownJob => ({
  id: row.id,
  task: row.task,
  import: typeof row.input.import === 'string' ? row.input.import : null,
  roster: typeof row.input.roster === 'string' ? row.input.roster : null,
  state: row.state,
  done: row.done,
  total: row.total,
  attempts: row.attempts,
  cancelAsked: row.cancel_asked,
  result: row.result,
  problem: row.problem,
  who: row.who,
  created: row.created_at.toISOString(),
  updated: row.updated_at.toISOString(),
});

const MOST_SHOWN = 100;

/** The latest jobs: an owner's organisation's, anybody else's own. Errors: NOT_ALLOWED. */
export async function listJobs(actor: Actor): Promise<ShownJob[]> {
  const reach = authorise(actor, 'job.read');
  return inTenant(actor, async (tx) =>
    (await latestJobs(tx, reach === 'all' ? null : actor.userId, MOST_SHOWN)).map(shownJob),
  );
}

/** One job. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function readJob(actor: Actor, id: string): Promise<ShownJob> {
  const reach = authorise(actor, 'job.read');
  return inTenant(actor, async (tx) => {
    const row = await job(tx, id);
    if (!row || (reach !== 'all' && row.user_id !== actor.userId)) throw new Refusal({ code: 'NOT_FOUND' });
    return shownJob(row);
  });
}

/** Asks a job to stop: a waiting one at once, a running one before its next step. What it has done stays. Errors: NOT_FOUND, JOB_ENDED. */
export async function cancelJob(actor: Actor, id: string, clock: Clock): Promise<ShownJob> {
  const reach = authorise(actor, 'job.read');
  return inTenant(actor, async (tx) => {
    const row = await job(tx, id);
    if (!row || (reach !== 'all' && row.user_id !== actor.userId)) throw new Refusal({ code: 'NOT_FOUND' });
    if (hasEnded(row.state)) throw new Refusal({ code: 'JOB_ENDED' });
    const at = new Date(clock.now());
    await updateJob(tx, id, {
      cancel_asked: true,
      ...(row.state === 'waiting' ? { state: 'cancelled' as const } : {}),
      updated_at: at,
    });
    await recordAudit(tx, actor, 'job.cancelled', { kind: 'job', id }, clock);
    return shownJob((await job(tx, id))!);
  });
}
