import { draftOf, same } from '@/core/card';
import { withDetails } from '@/core/change';
import { Refusal, type Problem } from '@/core/errors';
import { RecordSchema } from '@/core/record';
import type { Changed } from '@/core/shown';
import type { Clock } from '@/server/clock';
import { cardForUpdate, cardIdsOf, cardsBy, holdCards, updateCard } from '@/server/db/cards/cards';
import { record } from '@/server/db/cards/records';
import { handOut, restoreDrawn } from '@/server/db/hand-outs/hand-outs';
import { inTenant, type Tx } from '@/server/db/pool';
import { staffForUpdate } from '@/server/db/roster/staff';
import {
  countMends,
  keepMends,
  mendsOfRecord,
  mendsOfRecords,
  recordsMended,
  setUndone,
  type ChangedFrom,
  type MendRow,
} from '@/server/db/wild/mends';
import type { Actor } from '@/server/services/accounts/actor';
import { authorise } from '@/server/services/accounts/authorise';
import { recordAudit } from '@/server/services/accounts/audit';
import { askForJob, readJob } from '@/server/services/jobs/jobs';
import type { RunningJob } from '@/server/services/jobs/run-job';
import { notTheirs } from '@/server/services/house/owners';
import { writeRecord } from '@/server/services/records/write-record';
import { isAsPublished } from '@/server/services/wild/mend';
import { askToUndoMend, namedMends } from '@/server/services/wild/run-mend';
import { refuseChange } from './plan';
import { inGroups, publishAll, toPublish, wordedFinding } from './run-change';

const MOST_LEFT = 200;

/** Asks to undo a change of many. Errors: NOT_ALLOWED, NOT_FOUND, TOO_MANY_JOBS. */
async function askToUndoChange(actor: Actor, jobId: string, clock: Clock): Promise<{ job: string }> {
  refuseChange(actor, []);
  const { task } = await readJob(actor, jobId);
  const undoing = await inTenant(actor, async (tx) => {
    const total = task === 'change-many' ? (await recordsMended(tx, jobId)).length : 0;
    if (total === 0) throw new Refusal({ code: 'NOT_FOUND' });
    return askForJob(tx, actor, { task: 'undo-change', input: { change: jobId }, total }, clock);
  });
  return { job: undoing };
}

/** Asks to undo what a job has mended or changed. Errors: NOT_ALLOWED, NOT_FOUND, TOO_MANY_JOBS. */
export async function askToUndo(actor: Actor, jobId: string, clock: Clock): Promise<{ job: string }> {
  authorise(actor, 'privacy.read');
  const { task } = await readJob(actor, jobId);
  return (task === 'change-many' ? askToUndoChange : askToUndoMend)(actor, jobId, clock);
}

/** Has people and cards say again what they said before; what somebody has changed since stays as it is, and is told. */
export async function undoChange(running: RunningJob): Promise<Record<string, number>> {
  const { id, actor, input } = running;
  refuseChange(actor, []);
  const of = String(input.change);
  const records = await inTenant(actor, async (tx) => [
    ...new Set([...(await recordsMended(tx, of)), ...(await recordsMended(tx, id))]),
  ]);
  await inGroups(running, records, async (some) => {
    for (const recordId of some) await undoPerson(running, of, recordId);
    // Those of an earlier try with them. What a card says is as it was; that it cannot go out the card tells itself.
    await publishAll(running, toPublish(await inTenant(actor, (tx) => mendsOfRecords(tx, id, some))));
  });
  return { people: records.length };
}

/** Cards that a change has published and that say nothing else since: they go out again with what is undone. */
async function asPublished(tx: Tx, actor: Actor, recordId: string, rows: MendRow[]): Promise<string[]> {
  const person = await record(tx, recordId);
  const out: string[] = [];
  for (const { card_id: cardId, was } of rows) {
    if (!cardId || !person || !was || !('publish' in was) || !was.publish) continue;
    const row = await cardForUpdate(tx, cardId);
    if (row?.state === 'published' && (await isAsPublished(tx, row, person.body, actor.organisation.country)))
      out.push(cardId);
  }
  return out;
}

async function undoPerson({ id, actor, clock }: RunningJob, of: string, recordId: string): Promise<void> {
  await inTenant(actor, async (tx) => {
    await holdCards(tx, await cardIdsOf(tx, [recordId]));
    const rows = (await mendsOfRecord(tx, of, recordId)).filter(
      ({ was, undone_at }) => was !== null && undone_at === null,
    );
    const again = await asPublished(tx, actor, recordId, rows);
    const own: Omit<MendRow, 'undone_at'>[] = [];
    for (const { undone_at: _, ...row } of rows) {
      const problem = await undoRow(tx, actor, row, clock);
      own.push({ ...row, id: crypto.randomUUID(), job_id: id, was: null, problem: problem && wordedFinding(problem) });
      if (!problem) await setUndone(tx, row.id, new Date(clock.now()));
    }
    const versions = new Map((await cardsBy(tx, again)).map((row) => [row.id, row.version]));
    const entries = own.map((row): typeof row => {
      const version = row.problem === null && row.card_id !== null ? versions.get(row.card_id) : undefined;
      return version === undefined ? row : { ...row, was: { card: null, codes: [], version, publish: true } };
    });
    if (entries.length > 0) await keepMends(tx, entries);
  });
}

/** One entry; what keeps it, or null. Its record and cards are held. */
async function undoRow(
  tx: Tx,
  actor: Actor,
  { record_id, card_id, was }: Pick<MendRow, 'record_id' | 'card_id' | 'was'>,
  clock: Clock,
): Promise<Problem | null> {
  const from = was as ChangedFrom;
  if ('details' in from) {
    const person = await staffForUpdate(tx, record_id);
    if (!person) return { code: 'NOT_FOUND' };
    if (person.version !== from.version) return { code: 'RECORD_CHANGED', version: person.version };
    const body = withDetails(
      person.body,
      Object.entries(from.details).map(([id, is]) => ({ id, is })),
    );
    const closed = await notTheirs(tx, actor, { record_id }, { record: person.body }, { record: body });
    if (closed) return closed;
    await writeRecord(tx, record_id, person.version, RecordSchema.parse(body), clock);
    const version = person.version + 1;
    await recordAudit(tx, actor, 'record.changed', { kind: 'record', id: record_id }, clock, { version });
    return null;
  }
  const row = card_id === null ? undefined : await cardForUpdate(tx, card_id);
  if (!row) return { code: 'NOT_FOUND' };
  for (const { id, drawn, proof } of from.codes) {
    const now = await handOut(tx, id);
    if (now && !same(now.drawn, drawn)) await restoreDrawn(tx, id, drawn, proof);
  }
  if (!from.card) return null;
  if (row.version !== from.version) return { code: 'CARD_CHANGED', version: row.version };
  await updateCard(tx, row.id, row.version, { ...draftOf(row), ...from.card, updated_at: new Date(clock.now()) });
  const version = row.version + 1;
  await recordAudit(tx, actor, 'card.changed', { kind: 'card', id: row.id }, clock, { version });
  return null;
}

/** What a change of many has done, as its job’s page tells of it; null of other jobs. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function readChanged(actor: Actor, jobId: string): Promise<Changed | null> {
  const { task } = await readJob(actor, jobId);
  if (task !== 'change-many' && task !== 'undo-change' && task !== 'invite-people') return null;
  return inTenant(actor, async (tx) => {
    const { changed, left, undone, rows } = await countMends(tx, jobId, MOST_LEFT);
    const named = await namedMends(tx, rows);
    return {
      // What undoing has written it was that was changed.
      ...{ changed: task === 'undo-change' ? 0 : changed, undone, leftCount: left },
      left: named.map(({ row: { problem }, ...of }) => ({ ...of, finding: problem! })),
      of: task === 'invite-people' ? ('invitation' as const) : ('change' as const),
      mayUndo: task === 'change-many' && changed > undone,
    };
  });
}
