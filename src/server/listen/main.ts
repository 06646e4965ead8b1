import { migrationSource } from '../../../migrations';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { settings, usePrograms } from '@/server/env';
import { closeDb } from '@/server/db/pool';
import { closeEventWriters } from '@/server/db/events';
import { migrate, UnknownSecret } from '@/server/db/migrate';
import { systemClock } from '@/server/clock';
import { warmCompute } from '@/server/compute';
import { sweep } from '@/server/services/jobs/sweeps';
import { countProcess } from '@/server/metrics';
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

async function main() {
  usePrograms(path.dirname(fileURLToPath(import.meta.url)));
  const { DATABASE_URL, SESSION_SECRET, SESSION_SECRET_BEFORE, PORT, HOST, METRICS_PORT } = settings();
  await migrate(DATABASE_URL, SESSION_SECRET, migrationSource, SESSION_SECRET_BEFORE);
  const dev = process.argv.includes('--dev');
  let state: ListenerState = 'starting';
  const studio = startStudio({ dev, hostname: HOST, port: PORT });
  // What people wait for comes first.
  const jobs = keepRunning('jobs', { after: studio.ready, nice: 5 });
  let jobsBegan = false;
  void jobs.ready.then(() => (jobsBegan = true));
  const silent = () => [...(studio.alive() ? [] : ['the studio']), ...(jobsBegan && !jobs.alive() ? ['the jobs'] : [])];
  const server = createListener(studio.handle, () => (state === 'ready' && silent().length > 0 ? silent() : state));
  if (dev) studio.attachUpgrades(server);
  const sorting = setInterval(() => void sweep(['event inbox'], systemClock), SORT_MS);
  const sweeping = setInterval(
    () => void sweep(['visitor secrets', 'rates', 'sessions', 'previews'], systemClock),
    SWEEP_MS,
  );
  // Recipients first: they are answered while the studio is still starting.
  await new Promise<void>((resolve, reject) => server.once('error', reject).listen(PORT, HOST, resolve));
  log.info({ port: (server.address() as { port: number }).port }, 'listening');
  const measured = METRICS_PORT === undefined ? null : createMetricsServer([studio, jobs]);
  if (measured) {
    countProcess('listener');
    await new Promise<void>((resolve, reject) => measured.once('error', reject).listen(METRICS_PORT, HOST, resolve));
  }
  const end = async () => {
    if (state === 'ending') return;
    state = 'ending';
    clearInterval(sweeping);
    clearInterval(sorting);
    measured?.close();
    const closed = new Promise((resolve) => server.close(resolve));
    server.closeIdleConnections();
    await Promise.race([closed, new Promise((resolve) => setTimeout(resolve, DRAIN_MS))]);
    await Promise.all([closeEventWriters(), closeDb(), studio.stop(STOP_MS), jobs.stop(STOP_MS)]);
    process.exit(0);
  };
  process.once('SIGTERM', () => void end());
  process.once('SIGINT', () => void end());
  process.once('disconnect', () => void end());

  await studio.ready;
  if (state !== 'starting') return;
  state = 'ready';
  warmCompute();
  log.info({}, 'the studio answers');
  process.send?.('listening');
}

main().catch((error: NodeJS.ErrnoException) => {
  const inUse = error.code === 'EADDRINUSE';
  process.stderr.write(
    error instanceof UnknownSecret
      ? `Not started. ${error.message}\n`
      : inUse
        ? 'The port is in use by another program. Choose one with PORT=… and start again.\n'
        : `Could not start: ${error.stack ?? error.message}\n`,
  );
  process.exit(1);
});
