import { fork, spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { existsSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import pg from 'pg';
import { freePort } from '../cluster/ports';
import { HOME, ROOT } from '../place';
import { say, Stop } from '../stop';
import type { Figure } from './figure';
import { CONNECTIONS, load, PHONE_AGENT, RUN_S, WARM_UP_S } from './load';

const BARE_NEXT = path.join(ROOT, 'commands/bench/bare-next');

function buildBareNext(): void {
  if (existsSync(path.join(BARE_NEXT, '.next/BUILD_ID'))) return;
  say('  building the bare route handler …');
  const built = spawnSync(process.execPath, [path.join(ROOT, 'node_modules/next/dist/bin/next'), 'build', BARE_NEXT], {
    encoding: 'utf8',
  });
  if (built.status !== 0) throw new Stop(`The bare route handler does not build:\n${built.stdout}${built.stderr}`);
}

async function answering(url: string): Promise<void> {
  for (let tries = 0; tries < 150; tries += 1) {
    if (
      await fetch(url).then(
        (answer) => answer.ok,
        () => false,
      )
    )
      return;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Stop(`${url} does not answer.`);
}

async function besides<T>(child: ChildProcess, url: string, work: (url: string) => Promise<T>): Promise<T> {
  try {
    await answering(url);
    return await work(url);
  } finally {
    child.kill('SIGTERM');
    await new Promise((resolve) => child.once('exit', resolve));
  }
}

/** How long a commit of one row takes on this disk at this moment, in milliseconds: what no view can be faster than. */
async function commitTime(databaseUrl: string): Promise<{ median: number; slowest: number }> {
  const client = new pg.Client(databaseUrl);
  await client.connect();
  await client.query('CREATE TABLE bench_probe (at timestamptz)');
  const times: number[] = [];
  for (let run = 0; run < 200; run += 1) {
    const began = performance.now();
    await client.query('INSERT INTO bench_probe VALUES (now())');
    times.push(performance.now() - began);
  }
  await client.query('DROP TABLE bench_probe');
  await client.end();
  times.sort((a, b) => a - b);
  return { median: times[100]!, slowest: times.at(-1)! };
}

/**
 * A card view with its event committed, through the listener, against a bare Next.js route handler and a bare node:http
 * server that send the same bytes.
 */
export async function measureViews(address: string, databaseUrl: string): Promise<Figure[]> {
  const url = `${address}/c/odile-clients`;
  const body = path.join(HOME, 'bench-body');
  writeFileSync(
    body,
    Buffer.from(
      await (await fetch(url, { headers: { 'User-Agent': PHONE_AGENT, 'Accept-Encoding': 'identity' } })).arrayBuffer(),
    ),
  );
  buildBareNext();

  const countEvents = async () => {
    const client = new pg.Client(databaseUrl);
    await client.connect();
    const { rows } = await client.query<{ count: string }>(
      'SELECT (SELECT count(*) FROM events) + (SELECT coalesce(sum(json_array_length(events)), 0) FROM event_inbox) AS count',
    );
    await client.end();
    return Number(rows[0]!.count);
  };
  const commit = await commitTime(databaseUrl);
  say(`  card view through the listener, ${CONNECTIONS} connections, ${WARM_UP_S} s of warm-up, ${RUN_S} s …`);
  const before = await countEvents();
  const { warm, run: ours } = await load(url);
  const written = (await countEvents()) - before;

  say('  the same bytes from a bare node:http server …');
  const httpPort = await freePort();
  const http = fork(path.join(ROOT, 'commands/bench/bare-http.ts'), {
    execArgv: ['--import', 'tsx'],
    env: { ...process.env, PORT: String(httpPort), BENCH_BODY: body, NODE_ENV: 'production' },
  });
  const bareHttp = (await besides(http, `http://127.0.0.1:${httpPort}/`, load)).run;

  say('  the same bytes from a bare Next.js route handler …');
  const nextPort = await freePort();
  const next = spawn(
    process.execPath,
    [path.join(ROOT, 'node_modules/next/dist/bin/next'), 'start', BARE_NEXT, '-p', String(nextPort), '-H', '127.0.0.1'],
    { env: { ...process.env, NODE_ENV: 'production', BENCH_BODY: body }, stdio: 'ignore' },
  );
  const bareNext = (await besides(next, `http://127.0.0.1:${nextPort}/`, load)).run;

  const configuration = `autocannon, ${CONNECTIONS} connections, ${WARM_UP_S} s of warm-up, one run of ${RUN_S} s, ${process.version}, all on this machine; the inbox is sorted in quiet moments, so not during the run`;
  const rate = (perSecond: number) => `${Math.round(perSecond).toLocaleString('en-GB')}/s`;
  const answers = warm.answers + ours.answers;
  return [
    {
      name: 'card view with committed event, against a bare Next.js route handler',
      value: ours.perSecond / bareNext.perSecond,
      unit: 'times',
      must: { atLeast: 12 },
      beside: `${rate(ours.perSecond)} against ${rate(bareNext.perSecond)} (next start, production build, force-dynamic); ${configuration}`,
    },
    {
      name: 'card view with committed event, against bare node:http',
      value: ours.perSecond / bareHttp.perSecond,
      unit: 'times',
      must: { atLeast: 0.4 },
      beside: `${rate(ours.perSecond)} against ${rate(bareHttp.perSecond)}; ${configuration}`,
    },
    {
      name: 'card view, 99th percentile',
      value: ours.p99,
      unit: 'ms',
      must: { atMost: 25 },
      beside: `median ${ours.p50} ms; a commit of one row took ${commit.median.toFixed(2)} ms, the slowest of 200 ${commit.slowest.toFixed(1)} ms, just before; node:http ${bareHttp.p50} and ${bareHttp.p99} ms, Next.js ${bareNext.p50} and ${bareNext.p99} ms`,
    },
    {
      name: 'answers without an event, and events beyond the requests in flight',
      value: Math.max(answers - written, written - answers - 2 * CONNECTIONS, ours.failures + warm.failures, 0),
      unit: 'of them',
      must: { atMost: 0 },
      beside: `${written.toLocaleString('en-GB')} events for ${answers.toLocaleString('en-GB')} answers; two runs end with up to ${CONNECTIONS} requests in flight each`,
    },
  ];
}
