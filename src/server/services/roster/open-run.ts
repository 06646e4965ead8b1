import { reachOf } from '@/core/access';
import { Refusal } from '@/core/errors';
import { hasEnded } from '@/core/jobs';
import { LIMITS } from '@/core/limits';
import { cleanLine } from '@/core/record';
import {
  fieldsOf,
  keyOf,
  keysTwice,
  type Cell,
  type Decision,
  type Field,
  type RowCounts,
  type RunOptions,
  type ShownPicture,
  type ShownRow,
  type ShownRun,
  type Verdict,
} from '@/core/roster';
import type { Clock } from '@/server/clock';
import { card, cardsOfRecord, namedCards } from '@/server/db/cards/cards';
import { job } from '@/server/db/jobs/jobs';
import { inTenant, type Tx } from '@/server/db/pool';
import { rosterPicturesNamed } from '@/server/db/roster/pictures';
import {
  countRows,
  rosterRow,
  rosterRows,
  rowsOfKeys,
  takeRows,
  updateRow,
  writeJudged,
  type RosterRow,
} from '@/server/db/roster/rows';
import { deleteRun, latestRuns, run, updateRun, type RunRow } from '@/server/db/roster/runs';
import { reconcile } from '@/core/card';
import { record } from '@/server/db/cards/records';
import type { Actor } from '@/server/services/accounts/actor';
import { authorise, authoriseFor } from '@/server/services/accounts/authorise';
import { askForJob } from '@/server/services/jobs/jobs';
import { openIdle } from './idle';
import { judgeRows, ownedKinds, readCells } from './known';

/** Rows on a screen: more would keep whoever corrects them waiting after each. */
const STRETCH = 50;
const MOST_RUNS = 100;

/** What a run is once the job on it was stopped or failed: it can be gone on with, undone again, or thrown away. */
const AFTER_A_STOP: Partial<Record<RunRow['state'], RunRow['state']>> = {
  reading: 'ready',
  running: 'ready',
  undoing: 'done',
};

/** A run as screens show it; one whose job was stopped is as it was before, to go on with. */
async function shownRun(tx: Tx, row: RunRow & { who: string }, counts: RowCounts): Promise<ShownRun> {
  const [pattern] = row.card_id === null ? [] : await namedCards(tx, [row.card_id]);
  const working = row.job_id ? await job(tx, row.job_id) : undefined;
  const stopped = working !== undefined && hasEnded(working.state) && working.state !== 'done';
  return {
    ...{ id: row.id, name: row.name, who: row.who, created: row.created_at.toISOString(), columns: row.columns },
    state: (stopped && AFTER_A_STOP[row.state]) || row.state,
    pattern: pattern ? { id: pattern.id, person: pattern.written_name, audience: pattern.audience } : null,
    ...{ options: row.options, job: row.job_id, counts, forgotten: row.forgotten },
  };
}

const shownRow = (row: RosterRow): ShownRow => ({
  ...{ at: row.at, name: row.name, cells: row.cells, verdict: row.verdict, remarks: row.remarks, changes: row.changes },
  ...{ decision: row.decision, take: row.take, record: row.record_id, card: row.card_id, picture: row.picture },
  ...{ outcome: row.outcome, published: row.published, problem: row.problem, undone: row.undone },
});

/** The latest runs. Error: NOT_ALLOWED. */
export async function listRuns(actor: Actor): Promise<ShownRun[]> {
  authorise(actor, 'roster.run');
  return inTenant(actor, async (tx) => {
    const shown: ShownRun[] = [];
    const rows = await latestRuns(tx, MOST_RUNS);
    const counts = await countRows(
      tx,
      rows.map(({ id }) => id),
    );
    for (const row of rows) shown.push(await shownRun(tx, row, counts.get(row.id) ?? []));
    return shown;
  });
}

/** A run with a stretch of its rows. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function openRun(
  actor: Actor,
  id: string,
  asked: { verdict: Verdict | null; words: string; from: number },
): Promise<{ run: ShownRun; rows: ShownRow[]; next: number | null; pictures: ShownPicture[] }> {
  authorise(actor, 'roster.run');
  return inTenant(actor, async (tx) => {
    const row = await run(tx, id);
    if (!row) throw new Refusal({ code: 'NOT_FOUND' });
    const words = cleanLine(asked.words).text.slice(0, LIMITS.name);
    const rows = await rosterRows(tx, id, { ...asked, words, most: STRETCH + 1 });
    const shown = rows.slice(0, STRETCH).map(shownRow);
    const wanted = shown.flatMap(({ picture }) => picture ?? []);
    const pictures = (await rosterPicturesNamed(tx, id, wanted)).flatMap(({ file_name: name, square, crop }) =>
      square ? [{ name, square, crop }] : [],
    );
    const counts = (await countRows(tx, [id])).get(id) ?? [];
    return { run: await shownRun(tx, row, counts), rows: shown, next: rows[STRETCH]?.at ?? null, pictures };
  });
}

/** Judges rows anew, and those that had or now have the same key. */
async function judgeAgain(tx: Tx, actor: Actor, { id, place }: RunRow, ats: number[]): Promise<void> {
  const order = place.order ?? 'day first';
  const touched = await Promise.all(ats.map((at) => rosterRow(tx, id, at)));
  const changed = touched.filter((row) => row !== undefined);
  const keys = changed
    .flatMap((row) => [row.key, keyOf(readCells(row.cells, actor, order))])
    .filter((key) => key !== null);
  const others = await rowsOfKeys(tx, id, [...new Set(keys)]);
  const rows = [...changed, ...others.filter(({ at }) => !ats.includes(at))].map((row) => ({
    ...{ at: row.at, cells: row.cells, decision: row.decision, picture: row.picture },
    read: readCells(row.cells, actor, order),
  }));
  const named = await rosterPicturesNamed(
    tx,
    id,
    rows.flatMap(({ picture }) => picture ?? []),
  );
  const pictures = new Map(named.map((each) => [each.file_name, each]));
  const of = { twice: keysTwice(rows), owned: await ownedKinds(tx), pictures };
  await writeJudged(tx, id, await judgeRows(tx, rows, of));
}

/** So many rows are corrected at once. */
const MOST_MENDED = 500;

/**
 * Corrects a cell of rows that were not carried out yet: to `text`, or where `find` is given, those letters within what stands there.
 * Errors: NOT_ALLOWED, NOT_FOUND, RUN_BUSY, RUN_ENDED.
 */
export async function mendRows(
  actor: Actor,
  id: string,
  { rows, field, find, text }: { rows: number[]; field: Field; find: string | null; text: string },
  clock: Clock,
): Promise<{ changed: number }> {
  authorise(actor, 'roster.run');
  return inTenant(actor, async (tx) => {
    const of = await openIdle(tx, id, ['ready', 'running', 'done']);
    const mended: number[] = [];
    for (const at of [...new Set(rows)].slice(0, MOST_MENDED)) {
      const row = await rosterRow(tx, id, at);
      if (!row || Object.keys(row.cells).length === 0) throw new Refusal({ code: 'NOT_FOUND' });
      if (row.done_at && row.outcome !== 'failed') continue;
      const { [field]: was, ...others } = row.cells;
      const said = typeof was === 'object' ? was.text : (was ?? '');
      const next: Cell = cleanLine(find === null ? text : said.replaceAll(find, text)).text;
      if (next === said && typeof was !== 'object') continue;
      const cells = next ? { ...others, [field]: next } : others;
      // One that failed is tried again.
      await updateRow(tx, id, at, { cells, ...(row.done_at ? { done_at: null, outcome: null, problem: null } : {}) });
      mended.push(at);
    }
    await judgeAgain(tx, actor, of, mended);
    await updateRun(tx, id, { state: 'ready', updated_at: new Date(clock.now()) });
    return { changed: mended.length };
  });
}

/** Decides a row that was to be checked, or whether rows are taken into the run. Errors as {@link mendRows}. */
export async function decideRow(
  actor: Actor,
  id: string,
  at: number,
  { take, decision }: { take?: boolean | undefined; decision?: Decision | undefined },
  clock: Clock,
): Promise<void> {
  authorise(actor, 'roster.run');
  await inTenant(actor, async (tx) => {
    const of = await openIdle(tx, id, ['ready', 'running', 'done']);
    const row = await rosterRow(tx, id, at);
    if (!row || row.done_at) throw new Refusal({ code: 'NOT_FOUND' });
    if (decision !== undefined) {
      await updateRow(tx, id, at, { decision });
      await judgeAgain(tx, actor, of, [at]);
    }
    // What is in error or to be checked is not taken before that is settled.
    const now = await rosterRow(tx, id, at);
    if (take !== undefined && now?.verdict !== 'error' && now?.verdict !== 'check' && now?.verdict !== 'same')
      await updateRow(tx, id, at, { take });
    await updateRun(tx, id, { updated_at: new Date(clock.now()) });
  });
}

/** Takes all rows of a verdict into the run, or none of them. Errors as {@link mendRows}. */
export async function takeAll(
  actor: Actor,
  id: string,
  verdict: 'new' | 'changed' | 'leaving',
  take: boolean,
): Promise<void> {
  authorise(actor, 'roster.run');
  await inTenant(actor, async (tx) => {
    await openIdle(tx, id, ['ready', 'running', 'done']);
    await takeRows(tx, id, verdict, take);
  });
}

/** How a run is carried out; whether its sheet is complete judges it anew. Errors as {@link mendRows}, TOO_MANY_JOBS. */
export async function setOptions(
  actor: Actor,
  id: string,
  options: RunOptions,
  clock: Clock,
): Promise<{ job: string | null }> {
  authorise(actor, 'roster.run');
  return inTenant(actor, async (tx) => {
    const row = await openIdle(tx, id, ['mapping', 'ready']);
    if (options.instead !== null) {
      const other = await card(tx, options.instead);
      if (!other) throw new Refusal({ code: 'NOT_FOUND' });
      authoriseFor(actor, 'roster.run', other.record_id);
    }
    const again = row.state === 'ready' && JSON.stringify(row.options.complete) !== JSON.stringify(options.complete);
    const updated_at = new Date(clock.now());
    if (!again) {
      await updateRun(tx, id, { options, updated_at });
      return { job: null };
    }
    const asked = await askForJob(tx, actor, { task: 'review-roster', input: { roster: id }, total: null }, clock);
    await updateRun(tx, id, { options, state: 'reading', job_id: asked, updated_at });
    return { job: asked };
  });
}

/** Throws a run away that was not carried out. Errors as {@link mendRows}. */
export async function dropRun(actor: Actor, id: string): Promise<void> {
  authorise(actor, 'roster.run');
  await inTenant(actor, async (tx) => {
    await openIdle(tx, id);
    await deleteRun(tx, id);
  });
}

export type PatternCard = { id: string; audience: string; person: string; needed: Field[]; picture: boolean };

/** What a sheet needs for cards like this one. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function readPattern(actor: Actor, cardId: string): Promise<PatternCard> {
  authorise(actor, 'roster.run');
  return inTenant(actor, async (tx) => {
    const row = await card(tx, cardId);
    const person = row && (await record(tx, row.record_id));
    if (!row || !person) throw new Refusal({ code: 'NOT_FOUND' });
    authoriseFor(actor, 'roster.run', row.record_id);
    const of = fieldsOf({ lines: reconcile(row.lines, person.body), record: person.body });
    return { id: cardId, audience: row.audience, person: person.written_name, ...of };
  });
}

/** The card that the latest run made others like, else the first one of the member's own record. Error: NOT_ALLOWED. */
export async function usualPattern(actor: Actor): Promise<{ id: string; name: string } | null> {
  authorise(actor, 'roster.run');
  return inTenant(actor, async (tx) => {
    const [latest] = await latestRuns(tx, 1);
    const own = actor.ownRecord === null ? [] : await cardsOfRecord(tx, actor.ownRecord);
    const id = latest?.card_id ?? own[0]?.id;
    const [named] = id === undefined ? [] : await namedCards(tx, [id]);
    return named ? { id: named.id, name: `${named.written_name} · ${named.audience}` } : null;
  });
}

/** What a run is called; null where the member does not see it, or there is none. */
export async function nameOfRun(actor: Actor, id: string): Promise<string | null> {
  if (reachOf(actor.role, 'roster.run') === 'none') return null;
  return inTenant(actor, async (tx) => (await run(tx, id))?.name ?? null);
}
