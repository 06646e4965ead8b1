import { fork, type ChildProcess } from 'node:child_process';
import pg from 'pg';
import { openCluster, type Cluster } from '../../../commands/cluster/cluster';
import { dropDatabase, ensureDatabase } from '../../../commands/cluster/databases';
import { freePort } from '../../../commands/cluster/ports';
import { migrationSource } from '../../../migrations';
import { systemClock } from '@/server/clock';
import { closeEventWriters } from '@/server/db/response/events';
import { migrate } from '@/server/db/schema/migrate';
import { closeDb } from '@/server/db/pool';
import { createRecord } from '@/server/services/records/create-record';
import { publishCard } from '@/server/services/publishing/publish-card';
import { newActor } from '../place';

const PHONE =
  'Mozilla/5.0 (Linux; Android 15; Pixel 9) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/131.0.0.0 Mobile Safari/537.36';
const CONCURRENT = 20;
const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

let cluster: Cluster;
let port: number;
let child: ChildProcess;

async function startListener() {
  child = fork('tests/integration/bare-listener.ts', {
    execArgv: ['--import', 'tsx'],
    env: { ...process.env, PORT: String(port), NODE_ENV: 'production' },
  });
  await new Promise((resolve) => child.once('message', resolve));
}

/** Asks for the card from many sides until told to end; answers with how often each event header came. */
function askOn() {
  const tally = { recorded: 0, notRecorded: 0, shown: 0, failed: 0 };
  let going = true;
  const loops = Array.from({ length: CONCURRENT }, async () => {
    while (going) {
      try {
        const answer = await fetch(`http://127.0.0.1:${port}/c/survivor`, { headers: { 'User-Agent': PHONE } });
        const body = await answer.text();
        if (answer.status === 200 && body.includes('Ilse Varrow')) tally.shown += 1;
        if (answer.headers.get('heathland-event') === 'recorded') tally.recorded += 1;
        else tally.notRecorded += 1;
      } catch {
        tally.failed += 1;
        await pause(20);
      }
    }
  });
  const end = async () => {
    going = false;
    await Promise.all(loops);
    return tally;
  };
  const until = async (recorded: number) => {
    const since = Date.now();
    while (tally.recorded < recorded && Date.now() - since < 15_000) await pause(20);
  };
  return { end, until };
}

async function events(): Promise<number> {
  const client = new pg.Client(cluster.url('survival'));
  await client.connect();
  const { rows } = await client.query<{ count: string }>(
    `SELECT (SELECT count(*) FROM events) + (SELECT coalesce(sum(json_array_length(g->'events')), 0) FROM event_inbox, json_array_elements(events) g) AS count`,
  );
  await client.end();
  return Number(rows[0]!.count);
}

beforeAll(async () => {
  cluster = await openCluster(process.cwd(), 'survival-cluster');
  await dropDatabase(cluster.url('postgres'), 'survival');
  await ensureDatabase(cluster.url('postgres'), 'survival');
  port = await freePort();
  process.env.DATABASE_URL = cluster.url('survival');
  await migrate(cluster.url('survival'), process.env.TEST_SECRET!, migrationSource);
  const actor = await newActor(systemClock);
  const { cardId } = await createRecord(actor, { name: 'Ilse Varrow', phone: '020 7946 0182', email: '' }, systemClock);
  await publishCard(actor, cardId, { baseVersion: 1, address: 'survivor' }, systemClock);
  await startListener();
});

afterAll(async () => {
  child.kill('SIGKILL');
  await Promise.all([closeDb(), closeEventWriters()]);
  await cluster.stop();
});

test('kill -9 of the application: every answer marked recorded has its event, surplus at most the requests in flight', async () => {
  const before = await events();
  const { end, until } = askOn();
  await until(200);
  child.kill('SIGKILL');
  await pause(200);
  await startListener();
  await pause(600);
  const tally = await end();
  const written = (await events()) - before;
  expect(tally.recorded).toBeGreaterThan(100);
  expect(written).toBeGreaterThanOrEqual(tally.recorded);
  expect(written).toBeLessThanOrEqual(tally.recorded + CONCURRENT);
});

test('kill -9 of the database: the card is still shown, said to be not recorded, and all recovers by itself', async () => {
  const before = await events();
  const { end, until } = askOn();
  await until(100);
  cluster.crash();
  await pause(500);
  const [ready, health] = await Promise.all(
    ['readyz', 'healthz'].map((path) => fetch(`http://127.0.0.1:${port}/${path}`)),
  );
  expect([ready!.status, health!.status]).toEqual([503, 200]);
  await pause(2_000);
  await cluster.start();
  const back = Date.now();
  let recovered = '';
  while (recovered !== 'recorded' && Date.now() - back < 5_000) {
    recovered =
      (await fetch(`http://127.0.0.1:${port}/c/survivor`, { headers: { 'User-Agent': PHONE } })).headers.get(
        'heathland-event',
      ) ?? '';
    await pause(50);
  }
  expect(recovered).toBe('recorded');
  await pause(500);
  const tally = await end();
  const written = (await events()) - before;
  expect(tally.failed).toBe(0);
  expect(tally.shown).toBe(tally.recorded + tally.notRecorded);
  expect(tally.notRecorded).toBeGreaterThan(0);
  expect(written).toBeGreaterThanOrEqual(tally.recorded + 1);
  expect(written).toBeLessThanOrEqual(tally.recorded + 1 + CONCURRENT);
}, 40_000);
