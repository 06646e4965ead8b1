import { setPriority } from 'node:os';
import { Logger, makeWorkerUtils, run } from 'graphile-worker';
import pg from 'pg';
import type { Task } from '@/core/jobs';
import { systemClock } from '@/server/clock';
import { closeDb, takeShare } from '@/server/db/pool';
import { settings } from '@/server/env';
import { mailDoor } from '@/server/mail';
import { runJob } from '@/server/services/jobs/run-job';
import { sweep, type Sweep } from '@/server/services/jobs/sweeps';
import { JOB_TASKS } from '@/workers/tasks';
import { toOurLog } from './framework-log';
import { sendHeartbeats } from './heartbeat';
import { sendMail } from './mail-lanes';

/** Jobs of one process at a time: they decode pictures, and recipients need the rest. */
const CONCURRENCY = 1;
/** A worker that was not seen for this long has died, and what it had begun is given to another. */
const DEAD_AFTER_S = 10;
const BEAT_MS = 2_000;
/** Plans of cards are looked at this often; they are made to the minute. */
const PLANS_MS = 2_000;
/** Days that are over are counted for reports this often. */
const FIGURES_MS = 15_000;

/** The queue's library tells of every job on the console; our log has what matters. */
const quietQueue = new Logger(() => () => undefined);

/** Recipients come first: whatever is done behind them has the processors that they leave (setpriority(2)). */
const NICE = 10;

/**
 * Jobs in a process of their own, so that neither recipients nor the studio wait for them. The queue's library locks what it
 * runs; a process that is killed leaves its locks, so every worker says that it lives, and the locks of the dead are opened.
 */
async function main() {
  setPriority(NICE);
  toOurLog('queue');
  const timers: NodeJS.Timeout[] = [];
  let begun = false;
  const works = sendHeartbeats('jobs', () => void stop());
  takeShare(0.5);
  const pool = new pg.Pool({ connectionString: settings().DATABASE_URL, max: CONCURRENCY + 3 });
  // A connection that breaks while the database is away is dropped; the library opens another.
  pool.on('error', () => undefined);
  pool.on('connect', (client) => client.on('error', () => undefined));
  const workers: string[] = [];
  const taskList = Object.fromEntries(
    Object.entries(JOB_TASKS).map(([task, work]) => [
      task as Task,
      (payload: unknown) => runJob(payload as { job: string; organisation: string }, work, systemClock),
    ]),
  );
  const runner = await run({
    pgPool: pool,
    concurrency: CONCURRENCY,
    pollInterval: 1_000,
    noHandleSignals: true,
    logger: quietQueue,
    taskList,
    parsedCronItems: [],
  });
  runner.events.on('worker:create', ({ worker }) => workers.push(worker.workerId));
  const utils = await makeWorkerUtils({ pgPool: pool, logger: quietQueue });

  const beat = async () => {
    await pool.query(
      `INSERT INTO job_workers (worker_id) SELECT unnest($1::text[]) ON CONFLICT (worker_id) DO UPDATE SET seen_at = now()`,
      [workers],
    );
    const { rows } = await pool.query<{ id: string }>(
      `SELECT DISTINCT locked_by AS id FROM graphile_worker.jobs WHERE locked_by IS NOT NULL AND locked_at < now() - make_interval(secs => $1)
         AND locked_by NOT IN (SELECT worker_id FROM job_workers WHERE seen_at > now() - make_interval(secs => $1))`,
      [DEAD_AFTER_S],
    );
    if (rows.length > 0) await utils.forceUnlockWorkers(rows.map(({ id }) => id));
    await pool.query(`DELETE FROM job_workers WHERE seen_at < now() - interval '1 hour'`);
  };
  timers.push(setInterval(() => void beat().catch(() => undefined), BEAT_MS));
  // One at a time in this process; over several processes each plan is locked while it is carried out.
  const again = (names: Sweep[], ms: number) => {
    let under = false;
    timers.push(
      setInterval(() => {
        if (under) return;
        under = true;
        void sweep(names, systemClock).finally(() => (under = false));
      }, ms),
    );
  };
  again(['plans'], PLANS_MS);
  again(['figures'], FIGURES_MS);
  // A day ends somewhere every quarter of an hour.
  again(['leavers'], 60_000);
  again(['invitations', 'mailed codes', 'evening'], 300_000);
  // Once an hour is often enough for what has lain there for a month.
  again(['files', 'deleted', 'jobs', 'mail', 'rosters', 'leads'], 3_600_000);
  const door = mailDoor();
  const endMail = door ? sendMail(door, systemClock) : () => Promise.resolve();
  begun = true;
  works();

  async function stop() {
    // Nothing is under way while it starts.
    if (!begun) process.exit(0);
    timers.forEach(clearInterval);
    await Promise.all([runner.stop().catch(() => undefined), endMail()]);
    await Promise.all([pool.end(), closeDb()]).catch(() => undefined);
    process.exit(0);
  }
}

void main();
