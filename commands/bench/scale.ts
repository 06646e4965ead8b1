import { monitorEventLoopDelay } from 'node:perf_hooks';
import { startApplication } from '../application';
import { asOwner } from '../cluster/databases';
import { freePort } from '../cluster/ports';
import { say } from '../stop';
import { newcomer } from './account';
import { ground, percentile95, repeated, slowest as ms, timed } from './asked';
import { countOf, pause, rowsOf } from './database';
import type { Figure } from './figure';
import { residentOf } from './memory';
import { CARDS, ENTRIES, fillDatabase, ORGANISATIONS } from './scale-rows';

/** Each is asked so often; the figure is the 95th percentile. */
const TIMES = 20;
/** A server that runs has answered before. */
const WARM = 5;
const KEPT_WITHIN_MS = 180_000;
const DELAY = 'nodejs_eventloop_lag_max_seconds';
const WORKED = 'process_cpu_seconds_total';
const SEARCHES = [
  'hilde kelmarsh',
  'fellbarrow 42',
  'clients',
  'badge of nia',
  'big-4711',
  'door 31',
  'ø',
  '% _',
  'a b c d',
];

const contactOf = (at: number): string =>
  `BEGIN:VCARD\r\nVERSION:3.0\r\nN:Varrow;Ilse ${at};;;\r\nFN:Ilse ${at} Varrow\r\nTEL;TYPE=CELL:+447700900${200 + at}\r\nEMAIL:ilse${at}@varrow.example\r\nUID:scale-${at}\r\nEND:VCARD\r\n`;

const metricsAt = async (port: number): Promise<string> => (await fetch(`http://127.0.0.1:${port}/metrics`)).text();

/** What a metric says of each of our processes. */
function metricOf(text: string, name: string): Map<string, number> {
  return new Map(
    [...text.matchAll(new RegExp(`^${name}\\{[^}]*process="(\\w+)"[^}]*\\} (\\S+)$`, 'gm'))].map((match) => [
      match[1]!,
      Number(match[2]),
    ]),
  );
}

/** Resident memory of all processes of the application, in megabytes. */
const residentOfAll = (pid: number): number => residentOf(pid).reduce((sum, { megabytes }) => sum + megabytes, 0);

/** Milliseconds that erasing a record takes which import entries name, each in the database alone, on a connection as the sweep has one. */
const eraseTimes = (url: string): Promise<number[]> =>
  asOwner(url, async (client) => {
    const { rows } = await client.query<{ id: string }>(
      'SELECT DISTINCT record_id AS id FROM import_entries WHERE record_id IS NOT NULL LIMIT 21',
    );
    const times = await repeated(rows.length, async (at) => {
      const told = await client.query<{ 'QUERY PLAN': [{ 'Execution Time': number }] }>(
        `EXPLAIN (ANALYZE, FORMAT JSON) SELECT erase_record('${rows[at]!.id}')`,
      );
      return told.rows[0]!['QUERY PLAN'][0]['Execution Time'];
    });
    // The first one of a connection is planned.
    return times.slice(1);
  });

/** The studio in front of a full house: what it takes to search, list, import and report where there is much of everything. */
export async function measureScale(environment: Record<string, string>): Promise<Figure[]> {
  const [port, metricsPort] = [await freePort(), await freePort()];
  const address = `http://127.0.0.1:${port}`;
  const url = environment.DATABASE_URL!;
  const application = await startApplication(
    { ...environment, PORT: String(port), BASE_URL: address, PUBLIC_URL: address, METRICS_PORT: String(metricsPort) },
    { dev: false },
  );
  try {
    const [big, imports] = [await newcomer(address, 'Big'), await newcomer(address, 'Imports')];
    const [bigGround, importGround] = [await ground(big, url, 'big-first'), await ground(imports, url, 'kept-first')];
    say(`  filling ${ORGANISATIONS} organisations …`);
    const filled = performance.now();
    await fillDatabase(url, bigGround, importGround, new Date());
    say(`  … in ${((performance.now() - filled) / 1_000).toFixed(0)} s`);
    // Days that are over are counted by the jobs before anybody asks.
    const due = () => countOf(url, `SELECT count(*) FROM response_days WHERE due AND day < current_date - 1`);
    for (const began = performance.now(); (await due()) > 0; await pause(1_000))
      if (performance.now() - began > KEPT_WITHIN_MS) throw new Error('the figures of ended days were not kept');
    await rowsOf(url, 'VACUUM ANALYZE');
    // The other organisation's pages load the code of each first.
    for (const path of ['/people', '/company/audit', '/response?days=90', '/api/go-to?q=a'])
      await repeated(WARM, () => timed(address, imports, path));
    await repeated(WARM, (at) =>
      timed(address, imports, '/api/records/import', { method: 'POST', body: contactOf(900 + at) }),
    );
    // This process only asks and waits: what stops it stops the machine.
    const machine = monitorEventLoopDelay({ resolution: 10 });
    machine.enable();
    /** The longest delay of each process while something was measured; being asked makes it begin anew. */
    const delays = new Map<string, Map<string, number>>();
    /** A process that worked for less than its delay was not blocked but waited for a processor: others come before the jobs (`nice`). */
    const blocks: number[] = [];
    const during = async <T>(what: string, work: () => Promise<T>): Promise<T> => {
      const before = metricOf(await metricsAt(metricsPort), WORKED);
      if (before.size < 3) throw new Error('a process tells no metrics');
      machine.reset();
      const made = await work();
      const after = await metricsAt(metricsPort);
      const worked = metricOf(after, WORKED);
      const delay = metricOf(after, DELAY);
      for (const [name, seconds] of delay)
        blocks.push(Math.min(seconds, (worked.get(name) ?? Infinity) - (before.get(name) ?? 0)));
      delays.set(what, delay.set('bench', machine.max / 1e9));
      return made;
    };

    const report = await during('first report', () => timed(address, big, '/response?days=90'));
    const words = SEARCHES.flatMap((word) => Array.from({ length: word.length }, (_, at) => word.slice(0, at + 1)));
    const searches = await during('searching', () =>
      repeated(words.length * 2, (at) =>
        timed(address, big, `/api/go-to?q=${encodeURIComponent(words[at % words.length]!)}`),
      ),
    );
    const people = await during('People', () => repeated(TIMES, () => timed(address, big, '/people')));
    const audit = await during('audit trail', () => repeated(TIMES, () => timed(address, big, '/company/audit')));
    const contacts = await during('contact files', () =>
      repeated(TIMES, (at) => timed(address, big, '/api/records/import', { method: 'POST', body: contactOf(at) })),
    );
    const reports = await during('reports', () => repeated(TIMES, () => timed(address, big, '/response?days=90')));
    const erased = await eraseTimes(url);
    const resident = metricOf(await metricsAt(metricsPort), 'process_resident_memory_bytes');
    const most = (each: Map<string, number>, but = '') =>
      Math.max(...[...each].filter(([name]) => name !== but).map(([, value]) => value));
    const told = (each: Map<string, number>, by: number, unit: string) =>
      [...each].map(([name, value]) => `${name} ${(value * by).toFixed(0)} ${unit}`).join(', ');
    const events = await countOf(url, 'SELECT count(*) FROM events WHERE organisation_id = $1', [
      bigGround.organisation,
    ]);
    return [
      ms(
        'searching while typing',
        searches,
        60,
        `${CARDS.toLocaleString('en-GB')} cards, one request a letter, over loopback`,
      ),
      ms('the first page of People', people, 150, 'the whole page over loopback'),
      ms('a page of the audit trail', audit, 100, 'the whole page over loopback'),
      ms('one contact file into that organisation', contacts, 400, 'until it is a card, over loopback'),
      {
        name: 'the report of ninety days, first call',
        value: report,
        unit: 'ms',
        must: { atMost: 400 },
        beside: `${events.toLocaleString('en-GB')} events over half a year; 95th percentile of ${TIMES} later ones ${percentile95(reports).toFixed(0)} ms`,
      },
      ms(
        'erasing a record',
        erased,
        15,
        `in the database, with ${ENTRIES.toLocaleString('en-GB')} import entries that may name it`,
      ),
      {
        name: 'longest block of a thread',
        value: Math.max(...blocks) * 1_000,
        unit: 'ms',
        must: { atMost: 50 },
        beside: `of a delay no more than the process worked in that time; delay of the event loops, of the bench’s too, which only waits: ${[...delays].map(([what, each]) => `${what} ${told(each, 1_000, 'ms')}`).join('; ')}`,
      },
      {
        name: 'resident memory of listener or studio, the larger',
        value: most(resident, 'jobs') / 1_048_576,
        unit: 'MB',
        must: { atMost: 500 },
        beside: `${told(resident, 1 / 1_048_576, 'MB')}; all processes of the application ${residentOfAll(application.child.pid!).toFixed(0)} MB`,
      },
      {
        name: 'resident memory of the jobs',
        value: (resident.get('jobs') ?? NaN) / 1_048_576,
        unit: 'MB',
        must: { atMost: 600 },
        beside: 'the same moment',
      },
    ];
  } finally {
    await application.stop();
  }
}
