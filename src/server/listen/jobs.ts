import { Worker } from 'node:worker_threads';
import { log } from '@/server/log';

const RESTART_MS = 2_000;
/** What a job may still take for the step that it is at when the process ends; then it goes on elsewhere. */
const STOP_MS = 4_000;

/** Starts the thread that runs jobs, once `after` is kept: what people wait for comes first. One that ends by itself (the database away at its start) is started again. */
export function startJobs(after: Promise<void>): { stop: () => Promise<void> } {
  const program = new URL('./jobs-thread.mjs', import.meta.url);
  let ending = false;
  let worker: Worker | undefined;
  let restart: NodeJS.Timeout | undefined;

  function start() {
    worker = new Worker(program);
    worker.on('error', (error) => log.error({ name: error.name }, 'the thread of jobs failed'));
    worker.once('exit', () => {
      if (!ending) restart = setTimeout(start, RESTART_MS);
    });
  }
  void after.then(() => (ending ? undefined : start()));

  return {
    async stop() {
      ending = true;
      clearTimeout(restart);
      if (!worker) return;
      const last = worker;
      const ended = new Promise((resolve) => last.once('exit', resolve));
      last.postMessage('stop');
      await Promise.race([ended, new Promise((resolve) => setTimeout(resolve, STOP_MS))]);
      await last.terminate();
    },
  };
}
