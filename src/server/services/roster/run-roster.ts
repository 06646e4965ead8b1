import { isTransient, Refusal } from '@/core/errors';
import type { RowRead } from '@/core/roster';
import { violatedUnique } from '@/server/db/jobs/failures';
import { inTenant, type Tx } from '@/server/db/pool';
import {
  countRows,
  rosterRow,
  rosterRowForUpdate,
  rowsToRun,
  updateRow,
  type RosterRow,
} from '@/server/db/roster/rows';
import { run, updateRun, type RunRow } from '@/server/db/roster/runs';
import { staffById } from '@/server/db/roster/staff';
import type { Clock } from '@/server/clock';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise } from '@/server/services/accounts/authorise';
import { askForJob } from '@/server/services/jobs/jobs';
import { inLanes } from '@/server/services/jobs/lanes';
import type { RunningJob } from '@/server/services/jobs/run-job';
import { openIdle } from './idle';
import { ownedKinds, readCells, whoIs } from './known';
import { seeToLeavers } from './leave';
import { changePerson, letGo, loadPattern, makePerson, type Done, type Making } from './make-person';
import { publishPerson } from './publish-person';

/** So many people are made at once: while one is proven, another is written. */
const LANES = 3;
const TRIES = 4;

/**
 * Asks for a run to be carried out, or to go on where it was stopped. Errors: NOT_ALLOWED, NOT_FOUND, RUN_BUSY, RUN_ENDED, NOTHING_CHOSEN,
 * TOO_MANY_JOBS.
 */
export async function startRun(actor: Actor, id: string, clock: Clock): Promise<{ job: string }> {
  authorise(actor, 'roster.run');
  return inTenant(actor, async (tx) => {
    const row = await openIdle(tx, id, ['ready', 'running', 'done']);
    const total = (await rowsToRun(tx, id, row.options.publish !== 'drafts')).length;
    if (total === 0) throw new Refusal({ code: 'NOTHING_CHOSEN' });
    const job = await askForJob(tx, actor, { task: 'run-roster', input: { roster: id }, total }, clock);
    await updateRun(tx, id, { state: 'running', job_id: job, updated_at: new Date(clock.now()) });
    return { job };
  });
}

const isForGood = (error: unknown): error is Refusal => error instanceof Refusal && !isTransient(error.problem);

/** Carries a run out, person by person; a try after one that was cut off goes on where it stopped, and makes nobody twice. */
export async function runRoster(running: RunningJob): Promise<Record<string, number>> {
  const { actor, clock, input, progress } = running;
  authorise(actor, 'roster.run');
  const id = String(input.roster);
  const { organisationId } = actor;
  const { row, making, places } = await inTenant(organisationId, async (tx) => {
    const of = await run(tx, id);
    if (!of) throw new Refusal({ code: 'NOT_FOUND' });
    const pattern = await loadPattern(tx, of.card_id);
    const made: Making = { runId: id, actor, clock, options: of.options, pattern, owned: await ownedKinds(tx) };
    return { row: of, making: made, places: await rowsToRun(tx, id, of.options.publish !== 'drafts') };
  });
  await inLanes(places, { lanes: LANES, progress }, (at) => carryOut(making, row, at));
  await seeToLeavers(clock);
  return inTenant(organisationId, async (tx) => {
    await updateRun(tx, id, { state: 'done', updated_at: new Date(clock.now()) });
    const counts = (await countRows(tx, [id])).get(id) ?? [];
    const sum = (key: 'done' | 'failed') => counts.reduce((total, each) => total + each[key], 0);
    const totals = { people: sum('done') - sum('failed'), failed: sum('failed') };
    await recordAudit(tx, actor, 'roster.run', { kind: 'roster', id }, clock, totals);
    return totals;
  });
}

/** One row: written in one transaction, then published. What is refused is noted with the row and costs only it. */
async function carryOut(making: Making, run: RunRow, at: number): Promise<void> {
  const { actor, clock, runId } = making;
  const { organisationId } = actor;
  const note = (row: Parameters<typeof updateRow>[3]) =>
    inTenant(organisationId, (tx) => updateRow(tx, runId, at, row));
  for (let tries = 1; ; tries += 1)
    try {
      await inTenant(organisationId, async (tx) => {
        const row = await rosterRowForUpdate(tx, runId, at);
        if (!row || row.done_at) return;
        const made = await writePerson(tx, making, row, run);
        await updateRow(tx, runId, at, { ...made, problem: null, done_at: new Date(clock.now()) });
      });
      break;
    } catch (error) {
      // Somebody saved the same person in between, or another run made them: looked at again.
      const again =
        violatedUnique(error)?.startsWith('records_staff_key') ||
        (error instanceof Refusal && error.problem.code === 'RECORD_CHANGED');
      if (again && tries < TRIES) continue;
      if (!isForGood(error) && !again) throw error;
      const problem = error instanceof Refusal ? error.problem : ({ code: 'UNEXPECTED' } as const);
      return void (await note({ outcome: 'failed', problem, done_at: new Date(clock.now()) }));
    }
  if (making.options.publish === 'drafts') return;
  const row = await inTenant(organisationId, (tx) => rosterRow(tx, runId, at));
  if (!row || row.published || (row.outcome !== 'made' && row.outcome !== 'changed')) return;
  try {
    await publishPerson(making, row);
    await note({ published: true, problem: null });
  } catch (error) {
    if (!isForGood(error)) throw error;
    await note({ problem: error.problem });
  }
}

async function writePerson(tx: Tx, making: Making, row: RosterRow, { place }: RunRow): Promise<Done> {
  if (Object.keys(row.cells).length === 0) {
    const known = row.record_id === null ? undefined : await staffById(tx, row.record_id);
    if (!known) throw new Refusal({ code: 'NOT_FOUND' });
    return letGo(tx, making, row, known);
  }
  const read: RowRead = readCells(row.cells, making.actor, place.order ?? 'day first');
  const { known } = await whoIs(tx, read, row.decision);
  return known ? changePerson(tx, making, row, read, known) : makePerson(tx, making, row, read);
}
