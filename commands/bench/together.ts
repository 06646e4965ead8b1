import { FIRST_PIECE, FIRST_SHEET } from '../../src/core/print';
import type { ShownJob } from '../../src/core/jobs';
import { startApplication } from '../application';
import { freePort } from '../cluster/ports';
import { say } from '../stop';
import { asOwner } from '../cluster/databases';
import { newcomer, type Asking } from './account';
import { pause, rowsOf } from './database';
import type { Figure } from './figure';
import { residentOf } from './memory';

const PEOPLE = 500;
const LONGEST_MS = 600_000;

/** Five hundred people's cards in one file, one a page and on sheets: how many a second, and what the largest process takes meanwhile. */
export async function measureTogether(environment: Record<string, string>): Promise<Figure[]> {
  const port = await freePort();
  const address = `http://127.0.0.1:${port}`;
  const application = await startApplication(
    { ...environment, PORT: String(port), BASE_URL: address, PUBLIC_URL: address },
    { dev: false },
  );
  try {
    const { ask, session } = await newcomer(address, 'Together');
    say(`  ${PEOPLE} people get a card …`);
    const records: string[] = [];
    for (let at = 0; at < PEOPLE; at += 1) {
      const person = { name: `Ilse ${at} Varrow`, phone: '020 7946 0182', email: `ilse-${at}@tarnhope.example` };
      const { recordId, cardId } = await ask<{ recordId: string; cardId: string }>('POST', '/api/records', person);
      await published(ask, cardId, `together-${at}`, environment.DATABASE_URL!);
      records.push(recordId);
    }
    const figures: Figure[] = [];
    for (const [sheet, words] of [
      [null, 'one a page'],
      [FIRST_SHEET, 'eight on a sheet'],
    ] as const) {
      const piece = { ...FIRST_PIECE, sheet };
      const json = { records, piece, placement: `Cards, ${words}`, copies: 0 };
      const { job } = await ask<{ job: string }>('POST', '/api/print-together', json);
      const largest = { megabytes: 0, program: '' };
      let told = await ask<ShownJob>('GET', `/api/jobs/${job}`);
      const began = performance.now();
      for (
        ;
        told.state === 'waiting' || told.state === 'running';
        told = await ask<ShownJob>('GET', `/api/jobs/${job}`)
      ) {
        if (performance.now() - began > LONGEST_MS) throw new Error('the file was not made in time');
        for (const each of residentOf(application.child.pid!))
          if (each.megabytes > largest.megabytes) Object.assign(largest, each);
        await pause(250);
      }
      const seconds = (performance.now() - began) / 1_000;
      const { printed = 0 } = told.result ?? {};
      if (printed < PEOPLE) {
        const rows = await rowsOf(environment.DATABASE_URL!, 'SELECT left_out FROM made_files');
        say(`  ${told.state}: ${printed} printed, ${JSON.stringify([told.problem, rows]).slice(0, 2_000)}`);
      }
      const file = await fetch(`${address}/api/jobs/${job}/file`, { headers: session });
      const { length } = Buffer.from(await file.arrayBuffer());
      figures.push(
        {
          name: `cards of ${PEOPLE} people in one file, ${words}`,
          value: printed === PEOPLE && file.ok ? PEOPLE / seconds : 0,
          unit: 'a second',
          must: { atLeast: 5 },
          beside: `each of two sides and proven, then bound and read again; ${seconds.toFixed(0)} s, ${(length / 1e6).toFixed(1)} MB`,
        },
        {
          name: `memory of the largest process meanwhile, ${words}`,
          value: largest.megabytes,
          unit: 'MB',
          must: { atMost: 400 },
          beside: `resident, of listener, studio, jobs and their compute processes: that of ${largest.program}`,
        },
      );
    }
    return figures;
  } finally {
    await application.stop();
  }
}

/** Publishes a card; nobody by hand publishes so many, so that their count is forgotten where it is in the way. */
async function published(ask: Asking, cardId: string, address: string, databaseUrl: string): Promise<void> {
  const { version } = await ask<{ version: number }>('GET', `/api/cards/${cardId}`);
  const publish = () => ask('POST', `/api/cards/${cardId}/publish`, { baseVersion: version, address });
  await publish().catch(async (error: unknown) => {
    if (!String(error).includes('429')) throw error;
    await asOwner(databaseUrl, (client) => client.query('DELETE FROM rate_counts'));
    await publish();
  });
}
