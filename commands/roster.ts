import { readdir, readFile } from 'node:fs/promises';
import path from 'node:path';
import { setTimeout } from 'node:timers/promises';
import { parseArgs } from 'node:util';
import { hasEnded } from '../src/core/jobs';
import { wordingOf } from '../src/core/errors';
import { FIRST_OPTIONS, isDoubt, isError } from '../src/core/roster';
import { ROSTER } from '../src/core/words';
import type { Actor } from '../src/server/services/accounts/actor';
import { withInstallation } from './archive/installation';
import { asOwner } from './cluster/databases';
import { say, Stop } from './stop';

const USAGE = `./heathland roster run FILE.xlsx --pattern CARD-ADDRESS [--pictures DIR] [--complete] [--publish] [--as MAIL] [--json]
makes and changes people as a sheet of staff says, each with a card like the pattern. Rows in error are listed and left out. Without
--as it is done as the owner of the pattern's organisation; --complete says that whoever is not in the sheet has left the company.
With --json the last line is an object: new, changed, same, leaving, errors`;

type Asked = {
  file: string;
  pattern: string;
  pictures?: string;
  complete: boolean;
  publish: boolean;
  as?: string;
  json: boolean;
};
type Failed = { row: number; column: string; reason: string };

function asked(args: string[]): Asked {
  try {
    const { positionals, values } = parseArgs({
      args,
      allowPositionals: true,
      options: {
        ...{ pattern: { type: 'string' }, pictures: { type: 'string' }, as: { type: 'string' } },
        ...{ complete: { type: 'boolean' }, publish: { type: 'boolean' }, json: { type: 'boolean' } },
      },
    });
    const [act, file, ...more] = positionals;
    if (act !== 'run' || !file || more.length > 0 || !values.pattern) throw new Stop(USAGE);
    const { pattern, pictures, as } = values;
    const flags = { complete: values.complete ?? false, publish: values.publish ?? false, json: values.json ?? false };
    return { file, pattern, ...flags, ...(pictures ? { pictures } : {}), ...(as ? { as } : {}) };
  } catch {
    throw new Stop(USAGE);
  }
}

/** A sheet of staff carried out from the command line, by the very services that the screens use. */
export async function run(args: string[]): Promise<number> {
  const wanted = asked(args);
  const bytes = await readFile(wanted.file).catch(() => {
    throw new Stop(`There is no file ${wanted.file}.`);
  });
  return withInstallation(async (databaseUrl) => {
    const { closeDb } = await import('../src/server/db/pool');
    const { closeCompute } = await import('../src/server/compute');
    try {
      return await carryOut(wanted, bytes, databaseUrl);
    } finally {
      closeCompute();
      await closeDb();
    }
  });
}

async function carryOut(wanted: Asked, bytes: Buffer, databaseUrl: string): Promise<number> {
  const { systemClock: clock } = await import('../src/server/clock');
  const { beginRun, giveSheet, readColumns } = await import('../src/server/services/roster/begin-run');
  const { openRun } = await import('../src/server/services/roster/open-run');
  const { startRun } = await import('../src/server/services/roster/run-roster');
  const { actor, cardId } = await whoRuns(wanted, databaseUrl);
  const read = await readColumns(actor, bytes, { sheet: 0, headings: null });
  const options = {
    ...FIRST_OPTIONS,
    ...(wanted.complete ? { complete: 'company' as const } : {}),
    ...(wanted.publish ? { publish: 'now' as const } : {}),
  };
  const { id } = await beginRun(
    actor,
    {
      ...{ name: path.basename(wanted.file).slice(0, 80), cardId, options, keepAs: null },
      columns: read.columns.map(({ heading, field }) => ({ heading, field })),
      place: { sheet: read.sheet, headingRow: read.headingRow },
    },
    clock,
  );
  await finish(actor, (await giveSheet(actor, id, bytes, clock)).job, 'review-roster', databaseUrl);
  if (wanted.pictures) await givePictures(actor, id, wanted.pictures);
  const counts = async () => (await openRun(actor, id, { verdict: null, words: '', from: 0 })).run.counts;
  const found = await counts();
  if (found.some(({ chosen }) => chosen > 0))
    await finish(actor, (await startRun(actor, id, clock)).job, 'run-roster', databaseUrl);
  const of = (verdict: string) => found.find((each) => each.verdict === verdict)?.found ?? 0;
  const errors = await failures(actor, id);
  const told = { new: of('new'), changed: of('changed'), same: of('same'), leaving: of('leaving'), errors };
  if (wanted.json) process.stdout.write(`${JSON.stringify(told)}\n`);
  else {
    for (const { row, column, reason } of errors) say(`  row ${row}${column ? `, ${column}` : ''}: ${reason}`);
    say(
      `${told.new} new, ${told.changed} changed, ${told.same} the same, ${told.leaving} leaving, ${errors.length} in error.`,
    );
  }
  return errors.length > 0 ? 1 : 0;
}

/** Every row that was not carried out, with the column and the reason. */
async function failures(actor: Actor, id: string): Promise<Failed[]> {
  const { openRun } = await import('../src/server/services/roster/open-run');
  const failed: Failed[] = [];
  for (let from: number | null = 0; from !== null;) {
    const page: Awaited<ReturnType<typeof openRun>> = await openRun(actor, id, { verdict: null, words: '', from });
    const headings = new Map(
      page.run.columns.flatMap(({ heading, field }) => (field ? [[field, heading] as const] : [])),
    );
    for (const { at, remarks, problem, outcome } of page.rows) {
      const stopping = remarks.filter((each) => (isError(each) || isDoubt(each)) && outcome === null);
      for (const { field, code, with: others } of stopping) {
        const reason = `${ROSTER.remarks[code]}${others ? ROSTER.rowsNamed(others) : ''}`;
        failed.push({ row: at, column: field ? (headings.get(field) ?? field) : '', reason });
      }
      if (problem) failed.push({ row: at, column: '', reason: wordingOf(problem) });
    }
    from = page.next;
  }
  return failed;
}

/** Whom the run is done as, and the card that its address names. */
async function whoRuns({ pattern, as }: Asked, databaseUrl: string): Promise<{ actor: Actor; cardId: string }> {
  const { actorOfUser } = await import('../src/server/services/accounts/sessions');
  const name = pattern.replace(/^.*\/c\//, '');
  const rows = await asOwner(databaseUrl, async (client) => {
    const { rows: found } = await client.query<{ card_id: string; organisation_id: string; user_id: string }>(
      `SELECT a.card_id, a.organisation_id, u.id AS user_id FROM directory_addresses a JOIN users u ON u.organisation_id = a.organisation_id
       WHERE a.name = $1 AND u.left_at IS NULL AND CASE WHEN $2::text IS NULL THEN u.role = 'owner' ELSE lower(u.email) = lower($2) END
       ORDER BY u.id LIMIT 1`,
      [name, as ?? null],
    );
    return found;
  });
  const [row] = rows;
  const actor = row && (await actorOfUser(row.user_id, row.organisation_id));
  if (!row || !actor)
    throw new Stop(as ? `There is no card at ${name} that ${as} reaches.` : `There is no card at ${name}.`);
  return { actor, cardId: row.card_id };
}

/** Waits for a job of the application where that runs, and does it here where it does not. */
async function finish(
  actor: Actor,
  job: string,
  task: 'review-roster' | 'run-roster',
  databaseUrl: string,
): Promise<void> {
  const { readJob } = await import('../src/server/services/jobs/jobs');
  const { runJob } = await import('../src/server/services/jobs/run-job');
  const { reviewRoster } = await import('../src/server/services/roster/review-rows');
  const { runRoster } = await import('../src/server/services/roster/run-roster');
  const { systemClock } = await import('../src/server/clock');
  const alive = await asOwner(databaseUrl, async (client) => {
    const { rows } = await client.query<{ alive: boolean }>(
      `SELECT count(*) > 0 AS alive FROM job_workers WHERE seen_at > now() - interval '10 seconds'`,
    );
    return rows[0]!.alive;
  });
  if (!alive)
    await runJob(
      { job, organisation: actor.organisationId },
      task === 'run-roster' ? runRoster : reviewRoster,
      systemClock,
    );
  for (let told = -1; ;) {
    const now = await readJob(actor, job);
    if (now.done !== told && now.total) process.stderr.write(`\r  ${now.done} of ${now.total} …`);
    told = now.done;
    if (hasEnded(now.state)) {
      process.stderr.write('\n');
      if (now.state !== 'done') throw new Stop(now.problem ? wordingOf(now.problem) : `The job is ${now.state}.`);
      return;
    }
    await setTimeout(500);
  }
}

const LANES = 2;

/** Every picture of a folder, and whose it is. */
async function givePictures(actor: Actor, id: string, folder: string): Promise<void> {
  const { givePicture, matchRunPictures } = await import('../src/server/services/roster/pictures');
  const { systemClock } = await import('../src/server/clock');
  const names = (
    await readdir(folder).catch(() => {
      throw new Stop(`There is no folder ${folder}.`);
    })
  ).filter((name) => /\.(jpe?g|png|webp|avif|heic)$/i.test(name));
  const lane = async () => {
    for (let name = names.pop(); name; name = names.pop())
      await givePicture(actor, id, name, await readFile(path.join(folder, name)));
  };
  await Promise.all(Array.from({ length: LANES }, lane));
  const { matched, files } = await matchRunPictures(actor, id, systemClock);
  say(`  ${ROSTER.picturesFound(matched, files)}`);
}
