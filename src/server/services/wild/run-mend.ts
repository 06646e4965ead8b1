import { randomUUID } from 'node:crypto';
import { detailOf, draftOf, goesOut, NOWHERE, reconcile, type Line, type Privacy, type Ticks } from '@/core/card';
import { isTransient, Refusal, wordingOf } from '@/core/errors';
import type { Finding } from '@/core/findings';
import { shownValue, type Detail, type PersonRecord, type Use } from '@/core/record';
import type { MendAct, Mended } from '@/core/shown';
import type { Clock } from '@/server/clock';
import { cardForUpdate, namedCards, updateCard } from '@/server/db/cards/cards';
import { currentAddress } from '@/server/db/cards/directory';
import { hashedMark, record, recordNames } from '@/server/db/cards/records';
import { inTenant, type Tx } from '@/server/db/pool';
import { keepMend, mendsOf, setUndone, type MendedFrom, type MendedTicks, type MendRow } from '@/server/db/wild/mends';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise, authoriseFor } from '@/server/services/accounts/authorise';
import { askForJob, readJob } from '@/server/services/jobs/jobs';
import type { RunningJob } from '@/server/services/jobs/run-job';
import { provenThen, proveToPublish } from '@/server/services/publishing/prove-to-publish';
import { publishRow } from '@/server/services/publishing/publish-card';
import { refuseOwned } from '@/server/services/house/owners';
import { writeRecord } from '@/server/services/records/write-record';
import { forWork, isAsPublished, planMends, type PlannedMend } from './mend';

const foundBy = (error: Refusal): Finding => ({ code: 'WORDED', sentence: wordingOf(error.problem) });
const ends = (error: unknown): error is Refusal => error instanceof Refusal && !isTransient(error.problem);

/** What a line says, as a hash: undoing gives out nothing else than what was given out before. */
const saidBy = (line: Line, body: PersonRecord): string => {
  const detail = detailOf(line, body);
  return hashedMark(JSON.stringify([detail && shownValue(detail), line.wording, line.part]));
};
type ChangeOf = (line: Line, said: string) => Ticks | null;

/** Changes ticks of a card that says what its latest revision says; answers with those that they had. Errors: NOT_FOUND, CARD_CHANGED. */
async function changeTicks(tx: Tx, actor: Actor, cardId: string, change: ChangeOf, clock: Clock): Promise<MendedTicks> {
  const row = await cardForUpdate(tx, cardId);
  const person = row && (await record(tx, row.record_id));
  if (!row || !person) throw new Refusal({ code: 'NOT_FOUND' });
  authoriseFor(actor, 'card.publish', row.record_id);
  const changed: MendedTicks = { ticks: {}, said: {} };
  const lines = reconcile(row.lines, person.body).map((line) => {
    const said = saidBy(line, person.body);
    const ticks = change(line, said);
    if (!ticks) return line;
    changed.ticks[line.detail] = line.ticks;
    changed.said[line.detail] = said;
    return { ...line, ticks };
  });
  if (Object.keys(changed.ticks).length === 0) return changed;
  if (!(await isAsPublished(tx, row, person.body, actor.organisation.country)))
    throw new Refusal({ code: 'CARD_CHANGED', version: row.version });
  await refuseOwned(
    tx,
    actor,
    row,
    { record: person.body, card: row },
    { record: person.body, card: { ...row, lines } },
  );
  await updateCard(tx, cardId, row.version, { ...draftOf(row), lines, updated_at: new Date(clock.now()) });
  await recordAudit(tx, actor, 'card.changed', { kind: 'card', id: cardId }, clock, { version: row.version + 1 });
  return changed;
}

/** Publishes a card as it is, or as it was at `seen`, unless it says what its latest revision says. Errors: those of publishing. */
export async function publishAsItIs(
  actor: Actor,
  cardId: string,
  clock: Clock,
  seen: number | null = null,
): Promise<void> {
  const of = await inTenant(actor, async (tx) => {
    const row = await cardForUpdate(tx, cardId);
    const person = row && (await record(tx, row.record_id));
    if (!row || !person) throw new Refusal({ code: 'NOT_FOUND' });
    if (seen !== null && row.version !== seen) throw new Refusal({ code: 'CARD_CHANGED', version: row.version });
    const same = await isAsPublished(tx, row, person.body, actor.organisation.country);
    return same ? null : { address: await currentAddress(tx, cardId), version: row.version };
  });
  if (!of) return;
  const { address, version } = of;
  if (!address) throw new Refusal({ code: 'NOT_FOUND' });
  await provenThen(
    () => proveToPublish(actor, cardId, { address, version }, clock),
    (seal) =>
      inTenant(actor, async (tx) => {
        const row = await cardForUpdate(tx, cardId);
        if (row?.version !== version) throw new Refusal({ code: 'CARD_CHANGED', version: row?.version ?? 0 });
        await publishRow(tx, actor, row, address, clock, { seal });
      }),
  );
}

/** Changes ticks and publishes; where it cannot be published, the ticks are as they were. */
async function tickAndPublish(
  { actor, clock }: Pick<RunningJob, 'actor' | 'clock'>,
  cardId: string,
  change: ChangeOf,
  note: (tx: Tx, was: MendedTicks) => Promise<unknown>,
): Promise<void> {
  const was = await inTenant(actor, async (tx) => {
    const changed = await changeTicks(tx, actor, cardId, change, clock);
    if (Object.keys(changed.ticks).length > 0) await note(tx, changed);
    return changed;
  });
  try {
    await publishAsItIs(actor, cardId, clock);
  } catch (error) {
    if (!ends(error)) throw error;
    await inTenant(actor, async (tx) => {
      const row = await cardForUpdate(tx, cardId);
      if (!row) return;
      const lines = row.lines.map((line) => ({ ...line, ticks: was.ticks[line.detail] ?? line.ticks }));
      await updateCard(tx, cardId, row.version, { ...draftOf(row), lines, updated_at: new Date(clock.now()) });
    });
    throw error;
  }
}

type Noted = Omit<MendRow, 'undone_at'>;
const rowOf = ({ id, actor }: RunningJob, { recordId, card }: PlannedMend): Noted => ({
  ...{ id: randomUUID(), organisation_id: actor.organisationId, job_id: id },
  ...{ record_id: recordId, card_id: card?.id ?? null, was: null, problem: null },
});

async function takeOff(running: RunningJob, entry: PlannedMend): Promise<void> {
  const lines = new Set(entry.lines);
  const change = (line: Line) => (lines.has(line.detail) && goesOut(line) ? NOWHERE : null);
  await tickAndPublish(running, entry.card!.id, change, (tx, was) => keepMend(tx, { ...rowOf(running, entry), was }));
}

/** Changes the uses of details; answers with those that they had. */
async function changeUses(
  { actor, clock }: Pick<RunningJob, 'actor' | 'clock'>,
  recordId: string,
  change: (detail: Extract<Detail, { uses: unknown }>) => Detail | null,
  note: (tx: Tx, uses: Record<string, Use[]>) => Promise<unknown>,
): Promise<void> {
  await inTenant(actor, async (tx) => {
    const person = await record(tx, recordId);
    if (!person) throw new Refusal({ code: 'NOT_FOUND' });
    authoriseFor(actor, 'record.write', recordId);
    const uses: Record<string, Use[]> = {};
    const details = person.body.details.map((detail) => {
      const changed = 'uses' in detail ? change(detail) : null;
      if (changed && 'uses' in detail) uses[detail.id] = [...detail.uses] as Use[];
      return changed ?? detail;
    });
    if (Object.keys(uses).length === 0) return;
    await refuseOwned(
      tx,
      actor,
      { record_id: recordId },
      { record: person.body },
      { record: { ...person.body, details } },
    );
    if (!(await writeRecord(tx, recordId, person.version, { ...person.body, details }, clock)))
      throw new Refusal({ code: 'RECORD_CHANGED', version: person.version });
    await note(tx, uses);
    const subject = { kind: 'record', id: recordId } as const;
    await recordAudit(tx, actor, 'record.changed', subject, clock, { version: person.version + 1 });
  });
}

/** Carries a mend out, person by person; a try after one that was cut off goes on where it stopped. */
export async function mendPrivacy(running: RunningJob): Promise<Record<string, number>> {
  const { id, actor, input, progress } = running;
  const records = String(input.records).split(',');
  const privacies = String(input.privacies).split(',') as Privacy[];
  const act = String(input.act) as MendAct;
  authorise(actor, act === 'take off' ? 'card.publish' : 'record.write');
  const { organisationId } = actor;
  const sum = { mended: 0, leftOut: 0 };
  for (const [at, recordId] of records.entries()) {
    await progress(at, records.length);
    const before = (await inTenant(organisationId, (tx) => mendsOf(tx, id))).filter(
      ({ record_id }) => record_id === recordId,
    );
    // What an earlier try has begun is ended.
    for (const { card_id, was } of before) if (card_id && was) await publishAsItIs(actor, card_id, running.clock);
    const asked = { records: [recordId], privacies, act };
    const { mended } = await inTenant(organisationId, (tx) => planMends(tx, actor, asked));
    for (const entry of mended) {
      try {
        if (entry.card) await takeOff(running, entry);
        else {
          const lines = new Set(entry.lines);
          await changeUses(
            running,
            recordId,
            (detail) => (lines.has(detail.id) ? forWork(detail) : null),
            (tx, uses) => keepMend(tx, { ...rowOf(running, entry), was: { uses } }),
          );
        }
        sum.mended += 1;
      } catch (error) {
        if (!ends(error)) throw error;
        await inTenant(organisationId, (tx) => keepMend(tx, { ...rowOf(running, entry), problem: foundBy(error) }));
        sum.leftOut += 1;
      }
    }
  }
  await progress(records.length, records.length);
  return sum;
}

/** Asks to undo what a job has mended. Errors: NOT_ALLOWED, NOT_FOUND, TOO_MANY_JOBS. */
export async function askToUndoMend(actor: Actor, jobId: string, clock: Clock): Promise<{ job: string }> {
  authorise(actor, 'privacy.read');
  await readJob(actor, jobId);
  const undoing = await inTenant(actor, async (tx) => {
    const total = (await mendsOf(tx, jobId)).filter(canUndo).length;
    if (total === 0) throw new Refusal({ code: 'NOT_FOUND' });
    return askForJob(tx, actor, { task: 'undo-mend', input: { mend: jobId }, total }, clock);
  });
  return { job: undoing };
}

const canUndo = ({ was, undone_at }: MendRow): boolean => was !== null && undone_at === null;

/** Has cards and records say again what they said before a mend; what somebody has changed since stays as it is, and is told. */
export async function undoMend(running: RunningJob): Promise<Record<string, number>> {
  const { id, actor, input, clock, progress } = running;
  const { organisationId } = actor;
  const rows = (await inTenant(organisationId, (tx) => mendsOf(tx, String(input.mend)))).filter(canUndo);
  const sum = { mended: 0, leftOut: 0 };
  for (const [at, row] of rows.entries()) {
    await progress(at, rows.length);
    const { record_id, card_id } = row;
    const own = { id: randomUUID(), organisation_id: organisationId, job_id: id, record_id, card_id, was: null };
    try {
      await undoOne(running, row);
      await inTenant(organisationId, async (tx) => {
        await setUndone(tx, row.id, new Date(clock.now()));
        await keepMend(tx, { ...own, problem: null });
      });
      sum.mended += 1;
    } catch (error) {
      if (!ends(error)) throw error;
      await inTenant(organisationId, (tx) => keepMend(tx, { ...own, problem: foundBy(error) }));
      sum.leftOut += 1;
    }
  }
  await progress(rows.length, rows.length);
  return sum;
}

const sameUses = (one: readonly string[], other: readonly string[]) =>
  [...one].sort().join() === [...other].sort().join();
const nothing = async (): Promise<void> => {};

async function undoOne(running: RunningJob, { record_id, card_id, was }: MendRow): Promise<void> {
  const from = was as MendedFrom;
  if ('ticks' in from && card_id) {
    // A line that somebody has ticked since stays as they ticked it.
    const change: ChangeOf = (line, said) => {
      const ticks = from.ticks[line.detail];
      if (!ticks || goesOut(line)) return null;
      // It says something else by now, which nobody has ticked.
      if (said !== from.said[line.detail]) throw new Refusal({ code: 'CARD_CHANGED', version: 0 });
      return ticks;
    };
    return tickAndPublish(running, card_id, change, nothing);
  }
  if (!('uses' in from)) return;
  const change = (detail: Extract<Detail, { uses: unknown }>) => {
    const uses = from.uses[detail.id];
    const isOurs = uses && sameUses(detail.uses, [...new Set([...uses, 'work'])]);
    return isOurs ? ({ ...detail, uses } as Detail) : null;
  };
  return changeUses(running, record_id, change, nothing);
}

/** Whose record and which card each entry is of, by name; of whoever is gone the name is empty. */
export async function namedMends<R extends Pick<MendRow, 'record_id' | 'card_id'>>(
  tx: Tx,
  rows: R[],
): Promise<{ row: R; recordId: string; person: string; card: { id: string; audience: string } | null }[]> {
  const records = await recordNames(
    tx,
    rows.map(({ record_id }) => record_id),
  );
  const named = await namedCards(
    tx,
    rows.flatMap(({ card_id }) => card_id ?? []),
  );
  const people = new Map(records.map((each) => [each.id, each.written_name]));
  const cards = new Map(named.map(({ id, audience }) => [id, { id, audience }]));
  return rows.map((row) => ({
    ...{ row, recordId: row.record_id, person: people.get(row.record_id) ?? '' },
    card: (row.card_id && cards.get(row.card_id)) || null,
  }));
}

/** What a job has mended, as its page tells of it; null of other jobs. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function readMended(actor: Actor, jobId: string): Promise<Mended | null> {
  const { task } = await readJob(actor, jobId);
  if (task !== 'mend-privacy' && task !== 'undo-mend') return null;
  return inTenant(actor, async (tx) => {
    const rows = await mendsOf(tx, jobId);
    return {
      rows: (await namedMends(tx, rows)).map(({ row: { problem, undone_at }, ...of }) => ({
        ...of,
        ...{ finding: problem, undone: undone_at !== null },
      })),
      mayUndo: task === 'mend-privacy' && rows.some(canUndo),
    };
  });
}
