import { Worker } from 'node:worker_threads';

/**
 * Lets a child process end with its parent: as soon as they are no longer connected, and within a second where its own thread is busy
 * and cannot see that, since a second thread looks whether it was orphaned. Signals of the terminal are the parent's to answer.
 */
export function endWithParent(): void {
  // Orphaned while it was still being loaded: nobody will tell it so any more.
  if (process.connected === false) process.exit(0);
  process.once('disconnect', () => process.exit(0));
  process.on('SIGINT', () => undefined);
  new Worker(
    `const parent = ${process.ppid};
     setInterval(() => process.ppid === parent || process.kill(process.pid, 'SIGKILL'), 1000)`,
    { eval: true },
  ).unref();
}
