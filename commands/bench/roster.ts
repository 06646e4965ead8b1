import { readdirSync, readFileSync } from 'node:fs';
import sharp from 'sharp';
import { hasEnded, type JobState } from '../../src/core/jobs';
import { FIRST_OPTIONS, type Column } from '../../src/core/roster';
import { startApplication, type Application } from '../application';
import { freePort } from '../cluster/ports';
import { say } from '../stop';
import { newcomer, type Newcomer } from './account';
import { repeated, slowest, timed } from './asked';
import { measureChange } from './change';
import { countOf, pause, rowsOf } from './database';
import type { Figure } from './figure';
import { residentOf } from './memory';
import { measureOffice } from './office';

const PEOPLE = 5_000;
/** Different portraits; each is given under many names. */
const PORTRAITS = 60;
const PORTRAIT_SIDE = 1_200;
const PORTRAIT_BYTES = 300_000;
const LANES = 4;
const KILLS = 3;
/** A recipient looks at a card this often meanwhile. */
const LOOK_MS = 50;

const HEADINGS = 'Staff number;First name;Last name;Job title;Department;Work phone;Email;Team';
const COLUMNS = ['staff number', 'given', 'family', 'title', 'department', 'phone', 'email', 'team'] as const;
const rowOf = (at: number, title = 'Rope inspector') =>
  `B${at};Keld${at % 400};Ros${at};${title};Ropes;020 7946 ${String(at % 1_000).padStart(4, '0')};keld.${at}@bench.example;Team ${at % 12}`;
const sheet = (title?: (at: number) => string) =>
  Buffer.from([HEADINGS, ...Array.from({ length: PEOPLE }, (_, at) => rowOf(at, title?.(at)))].join('\n'));

/** Portraits of about 300 KB: noise does not compress, so its share is chosen until they are. */
async function portraits(): Promise<Buffer[]> {
  const made: Buffer[] = [];
  let state = 7;
  for (let at = 0; at < PORTRAITS; at += 1) {
    const noise = Buffer.alloc(PORTRAIT_SIDE * PORTRAIT_SIDE * 3);
    for (let each = 0; each < noise.length; each += 1)
      noise[each] = 64 + ((state = (state * 48_271) % 2_147_483_647) & 127);
    const picture = sharp(noise, { raw: { width: PORTRAIT_SIDE, height: PORTRAIT_SIDE, channels: 3 } });
    let bytes = await picture.jpeg({ quality: 60 }).toBuffer();
    for (let quality = 55; bytes.length > PORTRAIT_BYTES * 1.1 && quality > 5; quality -= 5)
      bytes = await picture.jpeg({ quality }).toBuffer();
    made.push(bytes);
  }
  return made;
}

type Job = { state: JobState; done: number; problem: unknown };
async function ended(who: Newcomer, job: string): Promise<Job> {
  for (;;) {
    const now = await who.ask<Job>('GET', `/api/jobs/${job}`).catch(() => null);
    if (now && hasEnded(now.state)) {
      if (now.state !== 'done') throw new Error(`the job ended as ${now.state}: ${JSON.stringify(now.problem)}`);
      return now;
    }
    await pause(250);
  }
}

/** Looks at a card again and again until told to stop; answers with how long each look took. */
function looking(url: string): () => Promise<number[]> {
  const took: number[] = [];
  let going = true;
  const done = (async () => {
    while (going) {
      const began = performance.now();
      const answer = await fetch(url);
      await answer.arrayBuffer();
      took.push(performance.now() - began);
      await pause(LOOK_MS);
    }
  })();
  return async () => {
    going = false;
    await done;
    return took;
  };
}

/** The process of the jobs of an application, by its command line (proc(5)). */
function jobsProcess(application: Application): number | null {
  const parentOf = (pid: number) => {
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8');
    return Number(stat.slice(stat.lastIndexOf(')') + 2).split(' ')[1]);
  };
  for (const name of readdirSync('/proc').filter((each) => /^\d+$/.test(each)))
    try {
      const runs = readFileSync(`/proc/${name}/cmdline`, 'utf8').includes('jobs-process');
      if (runs && parentOf(Number(name)) === application.child.pid) return Number(name);
    } catch {
      // It ended meanwhile.
    }
  return null;
}

/** A sheet of five thousand people with pictures: its review, its run with published and proven cards under three kills, and the next sheet. */
export async function measureRoster(environment: Record<string, string>): Promise<Figure[]> {
  const port = await freePort();
  const address = `http://127.0.0.1:${port}`;
  const url = environment.DATABASE_URL!;
  const application = await startApplication(
    { ...environment, PORT: String(port), BASE_URL: address, PUBLIC_URL: address },
    { dev: false },
  );
  try {
    const who = await newcomer(address, 'Roster');
    const put = async (path: string, body: Buffer) => {
      for (;;) {
        const answer = await fetch(address + path, { method: 'PUT', headers: who.session, body: new Uint8Array(body) });
        const said = (await answer.json()) as { problem?: { code: string }; job?: string };
        if (!said.problem) return said;
        if (said.problem.code !== 'TOO_BUSY') throw new Error(`${path}: ${said.problem.code}`);
        await pause(500);
      }
    };
    const made = await who.ask<{ cardId: string; recordId: string }>('POST', '/api/records', {
      ...{ name: 'Maud Tern', title: 'Head of ropes', firm: 'Bench Ropes', phone: '020 7946 0100' },
      ...{ email: 'maud@bench.example', forWork: { phone: true, email: true } },
    });
    await who.ask('POST', `/api/cards/${made.cardId}/publish`, { baseVersion: 1, address: 'roster-pattern' });
    const columns: Column[] = HEADINGS.split(';').map((heading, at) => ({ heading, field: COLUMNS[at]! }));
    const begin = async () =>
      (
        await who.ask<{ id: string }>('POST', '/api/roster', {
          ...{ name: 'Bench', cardId: made.cardId, columns, place: { sheet: 0, headingRow: 1 } },
          ...{ options: { ...FIRST_OPTIONS, publish: 'now' }, keepAs: null },
        })
      ).id;
    const id = await begin();
    const some = await portraits();
    say(`  ${PEOPLE.toLocaleString('en-GB')} portraits of about ${Math.round(some[0]!.length / 1_000)} KB …`);
    const uploading = performance.now();
    let next = 0;
    const lane = async () => {
      for (let at = next++; at < PEOPLE; at = next++)
        await put(`/api/roster/${id}/pictures?name=B${at}.jpg`, some[at % PORTRAITS]!);
    };
    await Promise.all(Array.from({ length: LANES }, lane));
    const pictureRate = PEOPLE / ((performance.now() - uploading) / 1_000);
    const reviewing = performance.now();
    await ended(who, (await put(`/api/roster/${id}/sheet`, sheet())).job!);
    const review = (performance.now() - reviewing) / 1_000;
    const opening = await repeated(40, () => timed(address, who, `/roster/${id}`));
    say(`  the review took ${review.toFixed(1)} s; the run, with ${KILLS} kills …`);
    const stop = looking(`${address}/c/roster-pattern`);
    const running = performance.now();
    const { job } = await who.ask<{ job: string }>('POST', `/api/roster/${id}/run`);
    let [memory, killed] = [0, 0];
    const watching = setInterval(() => {
      for (const { program, megabytes } of residentOf(application.child.pid!))
        if (program === 'jobs-process') memory = Math.max(memory, megabytes);
    }, 2_000);
    const killing = (async () => {
      for (; killed < KILLS; killed += 1) {
        const share = (killed + 1) / (KILLS + 1);
        for (;;) {
          const now = await who.ask<Job>('GET', `/api/jobs/${job}`);
          if (hasEnded(now.state)) return;
          if (now.done >= PEOPLE * share * (killed > 0 ? 1 - killed / (KILLS + 1) : 1)) break;
          await pause(200);
        }
        const pid = jobsProcess(application);
        if (pid !== null) process.kill(pid, 'SIGKILL');
        await pause(1_500);
      }
    })();
    await ended(who, job);
    await killing;
    clearInterval(watching);
    const seconds = (performance.now() - running) / 1_000;
    const looks = (await stop()).sort((a, b) => a - b);
    const [{ organisation } = { organisation: '' }] = await rowsOf<{ organisation: string }>(
      url,
      'SELECT organisation_id AS organisation FROM cards WHERE id = $1',
      [made.cardId],
    );
    const once = await countOf(
      url,
      `SELECT count(*) FROM (SELECT r.staff_key FROM records r JOIN cards c ON c.record_id = r.id AND c.state = 'published'
         JOIN revisions v ON v.card_id = c.id WHERE r.organisation_id = $1 AND r.staff_key IS NOT NULL GROUP BY 1 HAVING count(*) = 1) each`,
      [organisation],
    );
    const again = await begin();
    const secondReview = performance.now();
    await ended(
      who,
      (
        await put(
          `/api/roster/${again}/sheet`,
          sheet(() => 'Senior rope inspector'),
        )
      ).job!,
    );
    const reviewed = (performance.now() - secondReview) / 1_000;
    say(
      `  ${(PEOPLE / seconds).toFixed(1)} people a second, at most ${Math.round(memory)} MB; an office to which all of them belong …`,
    );
    const office = await measureOffice(address, url, who, organisation);
    say(`  moved in ${Math.round(office[1]!.value)} ms; a change of all of them …`);
    const change = await measureChange(url, who, organisation);
    const among = `${PEOPLE.toLocaleString('en-GB')} people`;
    return [
      {
        name: 'taking in portraits',
        value: pictureRate,
        unit: 'a second',
        must: { atLeast: 3 },
        beside: `${PORTRAITS} different ones of ${PORTRAIT_SIDE} px and ${Math.round(some[0]!.length / 1_000)} KB, four at a time over loopback, cut and stored (our own limit: five thousand within half an hour)`,
      },
      {
        name: 'the review of a sheet',
        value: review,
        unit: 's',
        must: { atMost: 60 },
        beside: `${among}, each with a picture, from the upload to the last row`,
      },
      slowest('the review on screen', opening, 500, 'its first fifty rows, over loopback (our own limit)'),
      {
        name: 'a run with published and proven cards',
        value: PEOPLE / seconds,
        unit: 'people a second',
        must: { atLeast: 8 },
        beside: `${among} with pictures, ${seconds.toFixed(0)} s with ${killed} kills of the jobs’ process in it`,
      },
      {
        name: 'memory of the jobs’ process in the run',
        value: memory,
        unit: 'MB',
        must: { atMost: 600 },
        beside: 'resident, the highest of looks every two seconds',
      },
      {
        name: 'a recipient’s view meanwhile, 99th percentile',
        value: looks[Math.floor(looks.length * 0.99)] ?? NaN,
        unit: 'ms',
        must: { atMost: 50 },
        beside: `${looks.length.toLocaleString('en-GB')} views over loopback`,
      },
      {
        name: 'people who are there once, with one revision',
        value: once,
        unit: '',
        must: { atLeast: PEOPLE },
        beside: `of ${among} after ${killed} kills`,
      },
      {
        name: 'the review of the next sheet, which changes everybody',
        value: reviewed,
        unit: 's',
        must: { atMost: 60 },
        beside: among,
      },
      ...office,
      ...change,
    ];
  } finally {
    await application.stop();
  }
}
