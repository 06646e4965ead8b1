import { spawn } from 'node:child_process';
import path from 'node:path';
import { ROOT } from '../place';

export type Load = { perSecond: number; p50: number; p99: number; answers: number; failures: number };

export const CONNECTIONS = 50;
export const WARM_UP_S = 3;
export const RUN_S = 10;

/** A phone of the day; a program's name would be kept out of the figures. */
export const PHONE_AGENT =
  'Mozilla/5.0 (Linux; Android 15; Pixel 9) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/131.0.0.0 Mobile Safari/537.36';

/** One run of autocannon in a process of its own. Times in milliseconds. */
async function cannon(url: string, seconds: number): Promise<Load> {
  const program = path.join(ROOT, 'node_modules/autocannon/autocannon.js');
  const child = spawn(
    process.execPath,
    [
      program,
      '-c',
      String(CONNECTIONS),
      '-d',
      String(seconds),
      '-H',
      `User-Agent=${PHONE_AGENT}`,
      '--json',
      '--no-progress',
      url,
    ],
    { stdio: ['ignore', 'pipe', 'ignore'] },
  );
  let output = '';
  for await (const chunk of child.stdout) output += String(chunk);
  const report = JSON.parse(output) as {
    requests: { average: number; total: number };
    latency: { p50: number; p99: number };
    non2xx: number;
    errors: number;
    timeouts: number;
  };
  return {
    perSecond: report.requests.average,
    p50: report.latency.p50,
    p99: report.latency.p99,
    answers: report.requests.total,
    failures: report.non2xx + report.errors + report.timeouts,
  };
}

/** A warm-up that is thrown away, then one run. */
export async function load(url: string): Promise<{ warm: Load; run: Load }> {
  return { warm: await cannon(url, WARM_UP_S), run: await cannon(url, RUN_S) };
}
