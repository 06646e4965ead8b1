import { fork, spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { existsSync, statSync, writeFileSync } from 'node:fs';
import { get } from 'node:http';
import path from 'node:path';
import { freePort } from '../cluster/ports';
import { HOME, ROOT } from '../place';
import { needWrk } from '../packages';
import { say, Stop } from '../stop';
import { asOwner } from '../cluster/databases';
import { countOf, pause, settled, rowsOf } from './database';
import type { Figure } from './figure';
import { CONNECTIONS, loads, median, PHONE_AGENT, type Load, SLICE_S, SLICES, WARM_UP_S } from './load';

const BARE_NEXT = path.join(ROOT, 'commands/bench/bare-next');

function buildBareNext(): void {
  const built = path.join(BARE_NEXT, '.next/BUILD_ID');
  const source = path.join(BARE_NEXT, 'app/route.ts');
  if (existsSync(built) && statSync(built).mtimeMs > statSync(source).mtimeMs) return;
  say('  building the bare route handler …');
  const build = spawnSync(process.execPath, [path.join(ROOT, 'node_modules/next/dist/bin/next'), 'build', BARE_NEXT], {
    encoding: 'utf8',
  });
  if (build.status !== 0) throw new Stop(`The bare route handler does not build:\n${build.stdout}${build.stderr}`);
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

/** A process that ends when the work is done, whatever comes of it. */
async function ended(child: ChildProcess): Promise<void> {
  child.kill('SIGTERM');
  if (child.exitCode === null && child.signalCode === null) await new Promise((resolve) => child.once('exit', resolve));
}

/** How long a commit of one row takes on this disk at this moment, in milliseconds: what no view can be faster than. */
async function commitTime(databaseUrl: string): Promise<{ median: number; slowest: number }> {
  return asOwner(databaseUrl, async (client) => {
    await client.query('CREATE TABLE bench_probe (at timestamptz)');
    const times: number[] = [];
    for (let run = 0; run < 200; run += 1) {
      const began = performance.now();
      await client.query('INSERT INTO bench_probe VALUES (now())');
      times.push(performance.now() - began);
    }
    await client.query('DROP TABLE bench_probe');
    times.sort((a, b) => a - b);
    return { median: times[100]!, slowest: times.at(-1)! };
  });
}

/** An answer as the bare servers give it again, compressed as it comes; what every server adds of its own accord is left out. */
const answerOf = (url: string): Promise<{ headers: Record<string, string>; body: string }> =>
  new Promise((resolve, reject) => {
    const asked = get(url, { headers: { 'User-Agent': PHONE_AGENT, 'Accept-Encoding': 'gzip' } }, async (answer) => {
      const own = new Set(['date', 'connection', 'keep-alive', 'transfer-encoding']);
      const chunks: Buffer[] = [];
      for await (const chunk of answer) chunks.push(chunk as Buffer);
      const headers = Object.entries(answer.headers).filter(([name]) => !own.has(name));
      resolve({
        headers: Object.fromEntries(headers) as Record<string, string>,
        body: Buffer.concat(chunks).toString('base64'),
      });
    });
    asked.on('error', reject);
  });

/**
 * A card view with its event committed, through the listener, against a bare Next.js route handler and a bare node:http
 * server that send the same bytes, headers included.
 */
export async function measureViews(address: string, databaseUrl: string): Promise<Figure[]> {
  const url = `${address}/c/odile-clients`;
  const answerFile = path.join(HOME, 'bench-answer.json');
  // The first answer may come without its first screen.
  await answerOf(url);
  await pause(1_000);
  writeFileSync(answerFile, JSON.stringify(await answerOf(url)));
  needWrk();
  buildBareNext();

  const countEvents = () =>
    countOf(
      databaseUrl,
      `SELECT (SELECT count(*) FROM events) + (SELECT coalesce(sum(json_array_length(g->'events')), 0) FROM event_inbox, json_array_elements(events) g) AS count`,
    );
  // What the parts before have left to clean up would be cleaned up meanwhile, by a process that shares the processors.
  for (const rest of ['VACUUM ANALYZE', 'CHECKPOINT']) await rowsOf(databaseUrl, rest);
  const commit = await commitTime(databaseUrl);
  const before = await countEvents();
  const environment = { ...process.env, BENCH_ANSWER: answerFile, NODE_ENV: 'production' as const };
  const [httpPort, nextPort] = [await freePort(), await freePort()];
  const http = fork(path.join(ROOT, 'commands/bench/bare-http.ts'), {
    execArgv: ['--import', 'tsx'],
    env: { ...environment, PORT: String(httpPort) },
  });
  const next = spawn(
    process.execPath,
    [path.join(ROOT, 'node_modules/next/dist/bin/next'), 'start', BARE_NEXT, '-p', String(nextPort), '-H', '127.0.0.1'],
    { env: environment, stdio: 'ignore' },
  );
  const targets = {
    // What was taken in is sorted in a quiet moment; nobody else's slice pays for that.
    ours: { url, settle: () => settled(databaseUrl) },
    bareHttp: { url: `http://127.0.0.1:${httpPort}/` },
    bareNext: { url: `http://127.0.0.1:${nextPort}/` },
  };
  let measured: Awaited<ReturnType<typeof loads<keyof typeof targets>>>;
  try {
    await Promise.all([answering(targets.bareHttp.url), answering(targets.bareNext.url)]);
    say(
      `  card views through the listener, beside bare node:http and a bare Next.js route handler: ${CONNECTIONS} connections, ${WARM_UP_S} s of warm-up, ${SLICES * SLICE_S} s each …`,
    );
    measured = await loads(targets);
  } finally {
    await Promise.all([ended(http), ended(next)]);
  }
  const written = (await countEvents()) - before;
  const { warm, run: ours } = measured.ours;
  const bareHttp = measured.bareHttp.run;
  const bareNext = measured.bareNext.run;

  const configuration = `wrk on one thread, ${CONNECTIONS} connections, ${WARM_UP_S} s of warm-up, one run of ${SLICES * SLICE_S} s each in turns of ${SLICE_S} s, the same bytes at gzip with headers, ${process.version}, all on this machine; the inbox is sorted in quiet moments, so between the turns`;
  // A turn in which another guest of a shared machine takes the processors away says nothing of either side: the median of
  // the turns is the figure, what the whole run came to stands beside it.
  const against = (other: Load) => median(ours.turns.map((turn, at) => turn.perSecond / other.turns[at]!.perSecond));
  const whole = (other: Load) => `whole run ${(ours.perSecond / other.perSecond).toFixed(2)}`;
  const rate = (perSecond: number) => `${Math.round(perSecond).toLocaleString('en-GB')}/s`;
  const answers = warm.answers + ours.answers;
  return [
    {
      name: 'card view with committed event, against a bare Next.js route handler',
      value: against(bareNext),
      unit: 'times',
      must: { atLeast: 12 },
      beside: `${rate(ours.perSecond)} against ${rate(bareNext.perSecond)} (next start, production build, force-dynamic), median of ${SLICES} turns, ${whole(bareNext)}; ${configuration}`,
    },
    {
      name: 'card view with committed event, against bare node:http',
      value: against(bareHttp),
      unit: 'times',
      must: { atLeast: 0.4 },
      beside: `${rate(ours.perSecond)} against ${rate(bareHttp.perSecond)}, median of ${SLICES} turns, ${whole(bareHttp)}; ${configuration}`,
    },
    {
      name: 'card view, 99th percentile',
      value: median(ours.turns.map(({ p99 }) => p99)),
      unit: 'ms',
      must: { atMost: 25 },
      beside: `median of ${SLICES} turns, whole run ${ours.p99.toFixed(1)} ms; median answer ${ours.p50.toFixed(1)} ms; a commit of one row took ${commit.median.toFixed(2)} ms, the slowest of 200 ${commit.slowest.toFixed(1)} ms, just before; node:http ${bareHttp.p50.toFixed(1)} and ${bareHttp.p99.toFixed(1)} ms, Next.js ${bareNext.p50.toFixed(0)} and ${bareNext.p99.toFixed(0)} ms`,
    },
    {
      name: 'answers without an event, and events beyond the requests in flight',
      value: Math.max(
        answers - written,
        written - answers - (SLICES + 1) * CONNECTIONS,
        ours.failures + warm.failures,
        0,
      ),
      unit: 'of them',
      must: { atMost: 0 },
      beside: `${written.toLocaleString('en-GB')} events for ${answers.toLocaleString('en-GB')} answers; ${SLICES + 1} turns end with up to ${CONNECTIONS} requests in flight each`,
    },
  ];
}
