import { readdirSync, readFileSync, renameSync } from 'node:fs';
import { startApplication, type Application } from '../application';
import type { Cluster } from '../cluster/cluster';
import { needWrk } from '../packages';
import { say } from '../stop';
import { signedIn } from './account';
import { pause } from './database';
import type { Figure } from './figure';
import { slice } from './load';

/** Under load for so long, killed a third of the way. */
const LOAD_S = 6;
const KILL_AFTER_MS = 2_000;
const ROUNDS = 3;
const LISTENER_ROUNDS = 5;
const STREAMS = 50;
/** One person has at most a dozen open. */
const PEOPLE = 5;

/** Whatever descends from a process (proc(5)), with its command line. */
function descendants(root: number): { pid: number; command: string }[] {
  const parents = readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name))
    .flatMap((name) => {
      try {
        const stat = readFileSync(`/proc/${name}/stat`, 'utf8');
        const parent = Number(stat.slice(stat.lastIndexOf(')') + 2).split(' ')[1]);
        return [{ pid: Number(name), parent, command: readFileSync(`/proc/${name}/cmdline`, 'utf8') }];
      } catch {
        return [];
      }
    });
  const below = (of: number): { pid: number; command: string }[] =>
    parents.filter(({ parent }) => parent === of).flatMap((each) => [each, ...below(each.pid)]);
  return below(root);
}

const HELPERS = { studio: 'studio-process', jobs: 'jobs-process', compute: 'compute' } as const;

/** Asks until it is answered with 200; answers with when that was. */
async function answeredAt(url: string, longestMs = 60_000): Promise<number> {
  const began = performance.now();
  while (performance.now() - began < longestMs) {
    const answer = await fetch(url, { headers: { Connection: 'close' } }).catch(() => null);
    await answer?.arrayBuffer().catch(() => undefined);
    if (answer?.status === 200) return performance.now();
    await pause(5);
  }
  return NaN;
}

/** A new account with a card: its headers, and where the stream of its table is. */
async function tableOf(address: string, at: number) {
  const account = { email: `stream-${at}@heath.example`, password: 'a curlew at dusk over peat' };
  const post = async (path: string, headers: Record<string, string>, body: object) => {
    const all = { Origin: address, 'Content-Type': 'application/json', ...headers };
    const answer = await fetch(address + path, { method: 'POST', headers: all, body: JSON.stringify(body) });
    if (!answer.ok) throw new Error(`${path} was answered with ${answer.status}`);
    return answer;
  };
  const place = { country: 'GB', timeZone: 'Europe/London' };
  await post('/api/sign-up', {}, { ...account, name: `Office ${at}`, ...place });
  const headers = await signedIn(address, account);
  const made = await post('/api/records', headers, { name: 'Ilse', phone: '', email: '' });
  const { cardId } = (await made.json()) as { cardId: string };
  return { headers, url: `${address}/api/cards/${cardId}/live` };
}

/** Opens streams of events as tables do, tells the application to end, and answers how long that took and what `/readyz` said. */
async function stopWithStreams(environment: Record<string, string>) {
  const address = environment.BASE_URL!;
  const application = await startApplication({ ...environment, ENDING_SECONDS: '' }, { dev: false });
  const tables = await Promise.all(Array.from({ length: PEOPLE }, (_, at) => tableOf(address, at)));
  const streams = await Promise.all(
    tables.flatMap(({ url, headers }) => Array.from({ length: STREAMS / PEOPLE }, () => fetch(url, { headers }))),
  );
  const began = performance.now();
  const stopping = application.stop();
  await pause(200);
  const told = await fetch(`${address}/readyz`).then(async (answer) => `${answer.status} ${await answer.text()}`);
  await stopping;
  const ms = performance.now() - began;
  await Promise.all(streams.map((stream) => stream.text().catch(() => '')));
  return { ms, told, open: streams.filter(({ status }) => status === 200).length };
}

/**
 * Kills every kind of process of the application under wrk, takes the file store away, and starts with no database: what recipients
 * are answered meanwhile, and how soon everything is back.
 */
export async function measureKills(environment: Record<string, string>, cluster: Cluster): Promise<Figure[]> {
  needWrk();
  const address = environment.BASE_URL!;
  const url = `${address}/c/odile-clients`;
  say('  every kind of process killed under wrk, the file store away, no database at the start …');
  let application: Application = await startApplication(environment, { dev: false });
  const lost: Record<string, number> = {};
  let killed = 0;
  let answers = 0;
  const underLoad = async (what: string, act: () => void | Promise<void>) => {
    const load = slice(url, LOAD_S);
    await pause(KILL_AFTER_MS);
    await act();
    const told = await load;
    lost[what] = (lost[what] ?? 0) + told.failures;
    answers += told.answers;
  };
  await answeredAt(url);
  for (let round = 0; round < ROUNDS; round += 1)
    for (const [what, program] of Object.entries(HELPERS)) {
      await underLoad(what, () => {
        for (const { pid } of descendants(application.child.pid!).filter(({ command }) => command.includes(program))) {
          process.kill(pid, 'SIGKILL');
          killed += 1;
        }
      });
      await answeredAt(`${address}/readyz`);
    }

  // What is under way when the store goes is a file; a card needs none once it was loaded.
  const store = environment.FILES_DIR!;
  await underLoad('file store away', () => renameSync(store, `${store}-away`));
  renameSync(`${store}-away`, store);

  const back: number[] = [];
  let inFlight = 0;
  for (let round = 0; round < LISTENER_ROUNDS; round += 1) {
    const load = slice(url, 3);
    await pause(1_500);
    application.child.kill('SIGKILL');
    const at = performance.now();
    await application.ended;
    const starting = startApplication(environment, { dev: false });
    back.push((await answeredAt(url)) - at);
    application = await starting;
    inFlight += (await load).failures > 0 ? 1 : 0;
  }
  await application.stop();
  const stopped = await stopWithStreams(environment);

  await cluster.stop();
  const starting = startApplication(environment, { dev: false });
  const alive = await answeredAt(`${address}/healthz`, 30_000);
  await pause(2_000);
  const waiting = await fetch(`${address}/readyz`).then(async (answer) => `${answer.status} ${await answer.text()}`);
  const databaseAt = performance.now();
  await cluster.start();
  const first = (await answeredAt(url)) - databaseAt;
  application = await starting;
  await application.stop();

  const told = Object.entries(lost).map(([what, count]) => `${what} ${count}`);
  return [
    {
      name: 'recipients’ answers lost while studio, jobs or compute are killed, or the file store is away',
      value: Object.values(lost).reduce((sum, count) => sum + count, 0),
      unit: 'answers',
      must: { atMost: 0 },
      beside: `${told.join(', ')}; ${killed} processes killed (kill -9), ${answers.toLocaleString('en-GB')} answers under wrk with 50 connections`,
    },
    {
      name: 'the listener killed, until the next card is answered, the middle of five',
      value: [...back].sort((a, b) => a - b)[LISTENER_ROUNDS >> 1]! / 1_000,
      unit: 's',
      must: { atMost: 1 },
      beside: `${back.map((ms) => `${Math.round(ms)} ms`).join(', ')}; started again at once, as a service manager does; in flight when it died: ${inFlight} of ${LISTENER_ROUNDS} loads`,
    },
    {
      name: `told to end with ${STREAMS} tables open, until it has ended`,
      value: stopped.ms / 1_000,
      unit: 's',
      must: { atMost: 5 },
      beside: `as it is by default, with the moment in which /readyz says so: ${stopped.told}; ${stopped.open} streams were open`,
    },
    {
      name: 'started without a database: from its start to the first card',
      value: first / 1_000,
      unit: 's',
      must: { atMost: 5 },
      beside: `/healthz answered meanwhile: ${Number.isFinite(alive)}; /readyz: ${waiting}`,
    },
  ];
}
