import { setTimeout as sleep } from 'node:timers/promises';
import { settings } from '../src/server/env';
import { Stop } from './stop';

const LONGEST_S = 60;
/**
 * It has to have been ready for so long: a proxy that left the process out while it started looks again only then. nginx counts in whole
 * seconds, so that `fail_timeout=1s` lasts up to two.
 */
const STEADY_MS = 2_500;

/** Waits until the process that listens on this PORT is ready and has been for a moment, so that whoever starts several starts one after the other. Exit code 1 after a minute. */
export async function run(args: string[]): Promise<number> {
  if (args.length > 0) throw new Stop('Say ./heathland ready; it takes no words.');
  const { PORT, HOST } = settings();
  const host = HOST === '0.0.0.0' || HOST === '::' ? '127.0.0.1' : HOST;
  let told = 'nothing answers';
  let since: number | null = null;
  for (const began = performance.now(); performance.now() - began < LONGEST_S * 1_000; await sleep(100)) {
    const answer = await fetch(`http://${host.includes(':') ? `[${host}]` : host}:${PORT}/readyz`).catch(() => null);
    since = answer?.status === 200 ? (since ?? performance.now()) : null;
    if (since !== null && performance.now() - since >= STEADY_MS) return 0;
    if (answer) told = await answer.text();
  }
  throw new Stop(`Not ready after ${LONGEST_S} seconds: ${told}.`);
}
