import { migrationSource } from '../../../migrations';
import type { Server } from 'node:http';
import path from 'node:path';
import { setTimeout } from 'node:timers/promises';
import { fileURLToPath } from 'node:url';
import { givenSettings, release, settings, usePrograms } from '@/server/env';
import { closeDb } from '@/server/db/pool';
import { closeEventWriters } from '@/server/db/response/events';
import { isUnavailable } from '@/server/db/jobs/failures';
import { CannotStart } from '@/server/db/schema/cannot-start';
import { migrate } from '@/server/db/schema/migrate';
import { systemClock } from '@/server/clock';
import { warmCompute } from '@/server/compute';
import { sweep } from '@/server/services/jobs/sweeps';
import { countProcess } from '@/server/metrics';
import { endStreams } from './bounds';
import { findCardHosts } from './card-hosts';
import { removeLeftOver } from './left-over';
import { createListener, type ListenerState } from './listener';
import { log } from '@/server/log';
import { createMetricsServer } from './metrics-server';
import { startStudio } from './studio';
import { keepRunning } from './watched';

/** How long requests that are under way may take to finish once the process has been told to end. */
const DRAIN_MS = 5_000;
/** What a job may still take for the step that it is at when the process ends; then it goes on elsewhere. */
const STOP_MS = 4_000;
/** How often the event inbox is looked at; it is sorted when the moment is quiet. */
const SORT_MS = 3_000;
/** Secrets of ended days are destroyed at most this long after midnight. */
const SWEEP_MS = 10 * 60_000;
/** A database that is not there yet is asked again after so long. */
const DATABASE_AGAIN_MS = 1_000;

/** Brings the database up to date as soon as it is there. */
async function migrateWhenThere(): Promise<void> {
  const { DATABASE_URL, SESSION_SECRET, SESSION_SECRET_BEFORE } = settings();
  for (let tries = 0; ; tries += 1)
    try {
      const applied = await migrate(DATABASE_URL, SESSION_SECRET, migrationSource, SESSION_SECRET_BEFORE);
      if (applied.length > 0) log.info({ migrations: applied }, 'the database was brought up to date');
      return;
    } catch (error) {
      if (!isUnavailable(error)) throw error;
      if (tries === 0) log.info({}, 'the database does not answer yet and is waited for');
      await setTimeout(DATABASE_AGAIN_MS);
    }
}

/** What somebody who reads the log wants to know first; of settings the names alone. */
async function tellOfStart(): Promise<void> {
  const last = (await migrationSource.getMigrations([])).at(-1);
  const migration = last && migrationSource.getMigrationName(last);
  log.info({ release: release(), node: process.version, settings: givenSettings(), migration }, 'starting');
}

async function main() {
  usePrograms(path.dirname(fileURLToPath(import.meta.url)));
  const { PORT, HOST, METRICS_PORT } = settings();
  const dev = process.argv.includes('--dev');
  await tellOfStart();
  removeLeftOver();
  let state: ListenerState = 'waiting';
  const begun: { work?: Awaited<ReturnType<typeof beginWork>> } = {};
  const silent = () => begun.work?.silent() ?? [];
  let hasBegun = () => {};
  const beginning = new Promise<void>((resolve) => (hasBegun = resolve));
  // It listens before the database is there, so that whoever looks after it hears what it waits for.
  const server = createListener(
    (request, response) => begun.work?.studio.handle(request, response),
    () => (state === 'ready' && silent().length > 0 ? silent() : state),
    beginning,
  );
  await new Promise<void>((resolve, reject) => server.once('error', reject).listen(PORT, HOST, resolve));
  log.info({ port: (server.address() as { port: number }).port }, 'listening');
  const end = async () => {
    if (state === 'ending') return;
    const waits = state === 'waiting';
    state = 'ending';
    // Nothing is under way.
    if (waits) process.exit(0);
    log.info({}, 'ending');
    await setTimeout(settings().ENDING_SECONDS * 1_000);
    endStreams();
    const closed = new Promise((resolve) => server.close(resolve));
    server.closeIdleConnections();
    await Promise.race([closed, setTimeout(DRAIN_MS)]);
    await Promise.all([closeEventWriters(), closeDb(), begun.work?.end()]);
    process.exit(0);
  };
  for (const sign of ['SIGTERM', 'SIGINT', 'disconnect']) process.once(sign, () => void end());

  await migrateWhenThere();
  await findCardHosts();
  const { studio } = (begun.work = await beginWork(server, {
    dev,
    hostname: HOST,
    port: PORT,
    metricsPort: METRICS_PORT,
  }));
  // Recipients first: they are answered while the studio is still starting.
  if (state === 'waiting') state = 'starting';
  hasBegun();
  await studio.ready;
  if (state !== 'starting') return;
  state = 'ready';
  warmCompute();
  log.info({}, 'the studio answers');
  process.send?.('listening');
}

/** Starts the studio, the jobs and what this process does at intervals; answers with what ends it all. */
async function beginWork(
  server: Server,
  { metricsPort, ...options }: { dev: boolean; hostname: string; port: number; metricsPort: number | undefined },
) {
  const studio = startStudio(options);
  // What people wait for comes first.
  const jobs = keepRunning('jobs', { after: studio.ready, nice: 5 });
  let jobsBegan = false;
  void jobs.ready.then(() => (jobsBegan = true));
  if (options.dev) studio.attachUpgrades(server);
  const timers = [
    setInterval(() => void sweep(['event inbox'], systemClock), SORT_MS),
    setInterval(() => void sweep(['visitor secrets', 'rates', 'sessions', 'previews'], systemClock), SWEEP_MS),
  ];
  const measured = metricsPort === undefined ? null : createMetricsServer([studio, jobs]);
  if (measured) {
    countProcess('listener');
    await new Promise<void>((resolve, reject) =>
      measured.once('error', reject).listen(metricsPort, options.hostname, resolve),
    );
  }
  return {
    studio,
    silent: () => [...(studio.alive() ? [] : ['the studio']), ...(jobsBegan && !jobs.alive() ? ['the jobs'] : [])],
    end: () => {
      timers.forEach(clearInterval);
      measured?.close();
      return Promise.all([studio.stop(STOP_MS), jobs.stop(STOP_MS)]);
    },
  };
}

main().catch((error: NodeJS.ErrnoException) => {
  const inUse = error.code === 'EADDRINUSE';
  process.stderr.write(
    error instanceof CannotStart
      ? `Not started. ${error.message}\n`
      : inUse
        ? 'The port is in use by another program. Choose one with PORT=… and start again.\n'
        : `Could not start: ${error.stack ?? error.message}\n`,
  );
  process.exit(1);
});
