import { setTimeout as sleep } from 'node:timers/promises';
import { settings } from '../src/server/env';
import { Stop } from './stop';

const LONGEST_S = 60;

/** Waits until the process that listens on this PORT is ready, so that whoever starts several starts one after the other. Exit code 1 after a minute. */
export async function run(args: string[]): Promise<number> {
  if (args.length > 0) throw new Stop('Say ./heathland ready; it takes no words.');
  const { PORT, HOST } = settings();
  const host = HOST === '0.0.0.0' || HOST === '::' ? '127.0.0.1' : HOST;
  let told = 'nothing answers';
  for (const began = performance.now(); performance.now() - began < LONGEST_S * 1_000; await sleep(100)) {
    const answer = await fetch(`http://${host.includes(':') ? `[${host}]` : host}:${PORT}/readyz`).catch(() => null);
    if (answer?.status === 200) return 0;
    if (answer) told = await answer.text();
  }
  throw new Stop(`Not ready after ${LONGEST_S} seconds: ${told}.`);
}
