import { createHash } from 'node:crypto';
import { startApplication, type Application } from '../application';
import type { Cluster } from '../cluster/cluster';
import { say } from '../stop';
import { signedIn, type Account } from './account';
import { asOwner } from '../cluster/databases';
import { countOf, pause, settled } from './database';
import type { Figure } from './figure';
import { PHONE_AGENT } from './load';

const ROUNDS = 20;
const READERS = 20;
/** Work between two kills. */
const WORK_MS = 1_000;
/** A member's rate is ten changes a second; the bench keeps below it. */
const EDIT_MS = 110;
const BACK_WITHIN_S = 5;

type Tally = {
  recorded: string[];
  asked: number;
  acknowledged: number[];
  edits: number;
  /** When an answer was last marked recorded, in milliseconds of this process. */
  lastRecorded: number;
};

/** Views and saves from many sides, each with a user agent of its own, so that its one event can be told from all others. */
function readOn(address: string, tally: Tally): { stop: () => Promise<void> } {
  let going = true;
  const loops = Array.from({ length: READERS }, async () => {
    while (going) {
      const agent = `${PHONE_AGENT} n${(tally.asked += 1)}`;
      const path = tally.asked % 5 === 0 ? '/c/odile-festivals.vcf' : '/c/odile-festivals';
      try {
        const answer = await fetch(`${address}${path}`, { headers: { 'User-Agent': agent } });
        await answer.arrayBuffer();
        if (answer.headers.get('heathland-event') === 'recorded') {
          tally.recorded.push(agent);
          tally.lastRecorded = performance.now();
        }
      } catch {
        await pause(10);
      }
    }
  });
  return {
    stop: async () => {
      going = false;
      await Promise.all(loops);
    },
  };
}

/** Edits of one card, one after the other; what was acknowledged is remembered by the version that it made. */
function editOn(
  address: string,
  cardId: string,
  headers: Record<string, string>,
  tally: Tally,
): { stop: () => Promise<void> } {
  let going = true;
  const loop = (async () => {
    let version = 0;
    let lines: unknown[] = [];
    while (going) {
      await pause(EDIT_MS);
      tally.edits += 1;
      try {
        const answer = await fetch(`${address}/api/cards/${cardId}`, {
          method: 'PUT',
          headers: { ...headers, 'Content-Type': 'application/json' },
          body: JSON.stringify({ baseVersion: version, lines, audience: `Edit ${tally.edits}` }),
        });
        const told = (await answer.json()) as { version?: number; problem?: { code: string; version?: number } };
        if (told.version) tally.acknowledged.push((version = told.version));
        // An edit whose answer was lost: the next one is told the version that it made.
        if (told.problem?.code === 'CARD_CHANGED') version = told.problem.version ?? version;
        lines = [];
      } catch {
        // The process is gone; the next round of this loop meets its successor.
      }
    }
  })();
  return {
    stop: async () => {
      going = false;
      await loop;
    },
  };
}

/** Starts the database anew; what is left of the killed one must have ended first. */
export async function startDatabase(cluster: Cluster): Promise<void> {
  for (let tries = 0; ; tries += 1) {
    try {
      return await cluster.start();
    } catch (error) {
      if (tries >= 40) throw error;
      await pause(100);
    }
  }
}

/**
 * Kills the application and the database in turns, twenty times each, while people view, save and edit; starts them again
 * at once, as a service manager would; and compares what was promised with what is there.
 */
export async function measureSurvival(
  environment: Record<string, string>,
  cluster: Cluster,
  account: Account,
): Promise<Figure[]> {
  const address = environment.BASE_URL!;
  const databaseUrl = () => cluster.url('heathland_bench');
  say(`  ${ROUNDS} rounds of kill -9 on the application and on the database, under load …`);
  let application: Application = await startApplication(environment, { dev: false });
  const headers = await signedIn(address, account);
  const card = await asOwner(databaseUrl(), async (client) => {
    const { rows } = await client.query<{ card: string; organisation: string; zone: string }>(
      `SELECT c.card_id AS card, c.organisation_id AS organisation, o.time_zone AS zone FROM directory_addresses a
       JOIN directory_cards c USING (card_id) JOIN organisations o ON o.id = c.organisation_id WHERE a.name = 'odile-festivals'`,
    );
    return rows[0]!;
  });
  const before = await countOf(
    databaseUrl(),
    'SELECT count(*) FROM events WHERE card_id = $1 AND visitor IS NOT NULL',
    [card.card],
  );
  const tally: Tally = { recorded: [], asked: 0, acknowledged: [], edits: 0, lastRecorded: 0 };
  const loads = [readOn(address, tally), editOn(address, card.card, headers, tally)];
  const backAfter = { application: [] as number[], database: [] as number[] };
  const back = async (what: keyof typeof backAfter, killed: number) => {
    while (tally.lastRecorded < killed && performance.now() - killed < 30_000) await pause(20);
    backAfter[what].push((performance.now() - killed) / 1_000);
  };
  for (let round = 0; round < ROUNDS; round += 1) {
    await pause(WORK_MS);
    application.child.kill('SIGKILL');
    await application.ended;
    const appKilled = performance.now();
    const starting = startApplication(environment, { dev: false });
    await back('application', appKilled);
    application = await starting;

    await pause(WORK_MS);
    cluster.crash();
    // Answers on their way when the process died may still arrive; back is what was asked for afterwards.
    await pause(50);
    const databaseKilled = performance.now();
    await startDatabase(cluster);
    await back('database', databaseKilled);
  }
  await pause(WORK_MS);
  await Promise.all(loads.map((load) => load.stop()));
  await settled(databaseUrl());
  await application.stop();

  const { missing, doubled, written, lost } = await asOwner(databaseUrl(), async (client) => {
    const secrets = await client.query<{ secret: Buffer }>(
      'SELECT secret FROM visitor_secrets WHERE organisation_id = $1',
      [card.organisation],
    );
    const events = await client.query<{ visitor: string }>(
      `SELECT encode(visitor, 'hex') AS visitor FROM events WHERE card_id = $1 AND visitor IS NOT NULL`,
      [card.card],
    );
    const times = new Map<string, number>();
    for (const { visitor } of events.rows) times.set(visitor, (times.get(visitor) ?? 0) + 1);
    // The definition of a visitor's hash in product.md, computed here once more.
    const hashesOf = (agent: string) =>
      secrets.rows.map(({ secret }) =>
        createHash('sha256')
          .update(`${secret.toString('hex')}\n${card.organisation}\n127.0.0.1\n${agent}`)
          .digest('hex')
          .slice(0, 32),
      );
    const counts = tally.recorded.map((agent) =>
      hashesOf(agent).reduce((sum, visitor) => sum + (times.get(visitor) ?? 0), 0),
    );
    const trail = await client.query<{ version: string; count: string }>(
      // What was changed in one go is one line, which tells how many versions it made.
      `SELECT version, count(*) FROM audit_trail, LATERAL generate_series(
         (data->>'version')::int - coalesce((data->>'times')::int, 1) + 1, (data->>'version')::int) AS version
       WHERE act = 'card.changed' AND subject_id = $1 GROUP BY 1`,
      [card.card],
    );
    const written = new Map(trail.rows.map(({ version, count }) => [Number(version), Number(count)]));
    return {
      missing: counts.filter((count) => count === 0).length,
      doubled: counts.filter((count) => count > 1).length,
      written: events.rows.length - before,
      lost: tally.acknowledged.filter((version) => written.get(version) !== 1).length,
    };
  });
  const told = (times: number[]) =>
    `median ${[...times].sort((a, b) => a - b)[ROUNDS / 2]!.toFixed(2)} s, slowest ${Math.max(...times).toFixed(2)} s`;
  const surplus = written - tally.recorded.length;
  const kills = `${ROUNDS} kills of the application and ${ROUNDS} of the database`;
  return [
    {
      name: 'answers marked recorded without exactly one event',
      value: missing + doubled,
      unit: 'answers',
      must: { atMost: 0 },
      beside: `${tally.recorded.length.toLocaleString('en-GB')} answers marked recorded, ${kills}; ${missing} without, ${doubled} with more than one; ${READERS} readers, each request told by a visitor of its own`,
    },
    {
      name: 'events beyond the answers marked recorded, for each kill',
      value: surplus / (2 * ROUNDS),
      unit: 'events',
      must: { atMost: READERS },
      beside: `${surplus} in all; at most the ${READERS} requests in flight at each kill`,
    },
    {
      name: 'acknowledged edits that are not there',
      value: lost,
      unit: 'edits',
      must: { atMost: 0 },
      beside: `${tally.acknowledged.length} of ${tally.edits} edits acknowledged, each looked for in the audit trail by the version that it made`,
    },
    {
      name: 'back after a kill, the slowest',
      value: Math.max(...backAfter.application, ...backAfter.database),
      unit: 's',
      must: { atMost: BACK_WITHIN_S },
      beside: `from the kill to the next answer marked recorded; application ${told(backAfter.application)}; database ${told(backAfter.database)}; started again at once, as a service manager does`,
    },
  ];
}
