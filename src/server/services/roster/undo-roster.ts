import { isTransient, Refusal } from '@/core/errors';
import type { Clock } from '@/server/clock';
import { cardsOfRecord, setCardState } from '@/server/db/cards/cards';
import { hideCards, hideRecord } from '@/server/db/cards/deletion';
import { touchCard } from '@/server/db/cards/directory';
import { deleteUntouched } from '@/server/db/cards/records';
import { inTenant, inTenantWithDeleted, type Tx } from '@/server/db/pool';
import { rosterRowForUpdate, rowsToUndo, updateRow, type RosterRow } from '@/server/db/roster/rows';
import { updateRun } from '@/server/db/roster/runs';
import { staffById, writeStaff, type StaffRow } from '@/server/db/roster/staff';
import { setTeams } from '@/server/db/roster/teams';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise } from '@/server/services/accounts/authorise';
import { askForJob } from '@/server/services/jobs/jobs';
import type { RunningJob } from '@/server/services/jobs/run-job';
import { movedTo } from '@/server/services/house/offices';
import { cardsBehind, publishSeveral } from '@/server/services/publishing/publish-several';
import { writeRecord } from '@/server/services/records/write-record';
import { openIdle } from './idle';
import { officesByName } from './known';

/** Asks for a run to be undone as a whole. Errors: NOT_ALLOWED, NOT_FOUND, RUN_BUSY, RUN_ENDED, TOO_MANY_JOBS. */
export async function undoRun(actor: Actor, id: string, clock: Clock): Promise<{ job: string }> {
  authorise(actor, 'roster.run');
  return inTenant(actor, async (tx) => {
    const row = await openIdle(tx, id, ['running', 'done', 'undoing']);
    if (row.forgotten) throw new Refusal({ code: 'RUN_ENDED' });
    const total = (await rowsToUndo(tx, id)).length;
    const job = await askForJob(tx, actor, { task: 'undo-roster', input: { roster: id }, total }, clock);
    await updateRun(tx, id, { state: 'undoing', job_id: job, updated_at: new Date(clock.now()) });
    return { job };
  });
}

/** Undoes a run from its last row to its first. What somebody changed since stays, and is told. A try after a kill goes on. */
export async function undoRoster({ actor, input, clock, progress }: RunningJob): Promise<Record<string, number>> {
  authorise(actor, 'roster.run');
  const id = String(input.roster);
  const { organisationId } = actor;
  const places = await inTenant(organisationId, (tx) => rowsToUndo(tx, id));
  let undone = 0;
  for (const [index, at] of places.entries()) {
    await progress(index, places.length);
    // Whom a run made and published is hidden, as whoever is deleted.
    const again = await inTenantWithDeleted(organisationId, async (tx) => {
      const row = await rosterRowForUpdate(tx, id, at);
      if (!row || row.undone) return null;
      if (!(await undoRow(tx, actor, row, clock))) return null;
      await updateRow(tx, id, at, { undone: true });
      undone += 1;
      return row.published && row.before ? row.record_id : null;
    });
    if (again) await publishAgain(actor, again, clock);
  }
  await inTenant(organisationId, async (tx) => {
    await updateRun(tx, id, { state: 'undone', updated_at: new Date(clock.now()) });
    const totals = { undone, left: places.length - undone };
    await recordAudit(tx, actor, 'roster.undone', { kind: 'roster', id }, clock, totals);
  });
  await progress(places.length, places.length);
  return { undone, left: places.length - undone };
}

/** Cards that the run published say again what they said before. */
async function publishAgain(actor: Actor, recordId: string, clock: Clock): Promise<void> {
  const { recordVersion, cards } = await cardsBehind(actor, recordId);
  const ready = cards.filter(({ problem }) => problem === null).map(({ id, version }) => ({ id, version }));
  try {
    if (ready.length > 0) await publishSeveral(actor, recordId, { cards: ready, recordVersion }, clock);
  } catch (error) {
    // The record is as it was; a card that cannot go out says so itself.
    if (!(error instanceof Refusal) || isTransient(error.problem)) throw error;
  }
}

async function undoRow(tx: Tx, actor: Actor, row: RosterRow, clock: Clock): Promise<boolean> {
  const shown = (await cardsOfRecord(tx, row.record_id!)).filter((each) => !each.deleted_at);
  const cards = shown.map(({ id, state }) => ({ id, state }));
  const person = await staffById(tx, row.record_id!);
  // Whoever was deleted since is gone already.
  if (!person || person.deleted_at) return true;
  if (person.version !== row.made_version) return false;
  const subject = { kind: 'record' as const, id: person.id };
  if (row.outcome === 'made') {
    if (!(await deleteUntouched(tx, person.id, row.made_version))) {
      const at = new Date(clock.now());
      await hideCards(
        tx,
        cards.map(({ id }) => id),
        at,
      );
      await hideRecord(tx, person.id, at);
      for (const { id, state } of cards) if (state !== 'draft') await touchCard(tx, id, actor.organisationId);
    }
    await recordAudit(tx, actor, 'record.deleted', subject, clock, { cards: cards.length });
    return true;
  }
  if (!row.before) return false;
  if (row.outcome === 'left') await wakeUp(tx, actor, person, cards);
  const { before } = row;
  if (JSON.stringify(before.body) !== JSON.stringify(person.body))
    await writeRecord(tx, person.id, person.version, before.body, clock);
  await writeStaff(tx, person.id, {
    ...{ staff_number: before.staffNumber, joins_on: before.joins, leaves_on: before.leaves },
    roster: { ...person.roster, written: before.written },
  });
  await setTeams(tx, actor.organisationId, person.id, before.teams);
  // An office that is gone meanwhile is gone.
  if (before.office !== undefined && before.office !== person.office)
    await movedTo(tx, [person.id], (await officesByName(tx)).get(before.office?.toLowerCase() ?? '') ?? null);
  await recordAudit(tx, actor, 'record.changed', subject, clock);
  return true;
}

/** The cards of somebody who does not leave after all, that rest since their last day. */
async function wakeUp(tx: Tx, actor: Actor, person: StaffRow, cards: { id: string; state: string }[]): Promise<void> {
  if (person.left_on === null || person.left_on !== person.leaves_on) return;
  for (const { id, state } of cards) {
    if (state !== 'resting') continue;
    await setCardState(tx, id, { state: 'published', notice: '', instead: null });
    await touchCard(tx, id, actor.organisationId);
  }
  await writeStaff(tx, person.id, { left_on: null });
}
