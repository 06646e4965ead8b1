import { randomUUID } from 'node:crypto';
import { draftOf } from '@/core/card';
import { ChangeSchema, readChange, type Change } from '@/core/change';
import { isTransient, orRefuse, Refusal, wordingOf, type Problem } from '@/core/errors';
import type { Finding } from '@/core/findings';
import { houseCodeLogo, houseCodeStyle } from '@/core/house';
import type { CodeStyle } from '@/core/qr';
import { RecordSchema } from '@/core/record';
import type { ShownProof } from '@/core/shown';
import type { Clock } from '@/server/clock';
import { cardIdsOf, holdCards, updateCard } from '@/server/db/cards/cards';
import { codesOfCards, setDrawn, type DrawnCode, type HandOutRow } from '@/server/db/hand-outs/hand-outs';
import { recordNames } from '@/server/db/cards/records';
import { inTenant } from '@/server/db/pool';
import { staffForUpdate } from '@/server/db/roster/staff';
import { keepMend, mendsOfRecord, type ChangedFrom, type CodeBefore } from '@/server/db/wild/mends';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { styled } from '@/server/services/hand-outs/drawing';
import { markOfPicture } from '@/server/services/hand-outs/marks';
import { houseOf } from '@/server/services/house/house-style';
import { askForJob } from '@/server/services/jobs/jobs';
import { inLanes } from '@/server/services/jobs/lanes';
import type { RunningJob } from '@/server/services/jobs/run-job';
import { writeRecord } from '@/server/services/records/write-record';
import { publishAsItIs } from '@/server/services/wild/run-mend';
import { planSome, refuseChange, type PlannedPerson } from './plan';

/** So many people at a time: while one is proven, another is written. */
export const LANES = 4;

/** Asks for one change of many people. Errors: NOT_ALLOWED, NOT_FOUND, those of reading the change, TOO_MANY_JOBS. */
export async function askToChange(
  actor: Actor,
  wanted: { records: string[]; change: Change },
  clock: Clock,
): Promise<{ job: string }> {
  const records = [...new Set(wanted.records)];
  refuseChange(actor, records);
  const change = orRefuse(readChange(wanted.change));
  const input = { records: records.join(','), change: JSON.stringify(change) };
  const job = await inTenant(actor.organisationId, async (tx) => {
    if ((await recordNames(tx, records)).length < records.length) throw new Refusal({ code: 'NOT_FOUND' });
    const asked = await askForJob(tx, actor, { task: 'change-many', input, total: records.length }, clock);
    const subject = { kind: 'organisation', id: actor.organisationId } as const;
    await recordAudit(tx, actor, 'people.changed', subject, clock, { people: records.length });
    return asked;
  });
  return { job };
}

export const wordedFinding = (problem: Problem): Finding => ({ code: 'WORDED', sentence: wordingOf(problem) });
export const endsHere = (error: unknown): error is Refusal => error instanceof Refusal && !isTransient(error.problem);

/** Carries a change out, person by person; a try after one that was cut off goes on where it stopped. */
export async function changeMany(running: RunningJob): Promise<Record<string, number>> {
  const { actor, input, progress } = running;
  const records = String(input.records).split(',');
  refuseChange(actor, records);
  const change = ChangeSchema.parse(JSON.parse(String(input.change)));
  await inLanes(records, { lanes: LANES, progress }, (recordId) =>
    change.of === 'codes' ? restyleCodes(running, recordId) : changeOne(running, change, recordId),
  );
  return { people: records.length };
}

const mend = ({ id, actor }: RunningJob, recordId: string, cardId: string | null) => ({
  ...{ id: randomUUID(), organisation_id: actor.organisationId, job_id: id, record_id: recordId, card_id: cardId },
  ...{ was: null as ChangedFrom | null, problem: null as Finding | null },
});

/** A card that goes out as it was written, unless somebody has changed it since. */
type ToPublish = { cardId: string; version: number };

/** One person: written in one transaction, then their cards published that were as published before. */
async function changeOne(running: RunningJob, change: Change, recordId: string): Promise<void> {
  const { id, actor, clock } = running;
  const { organisationId } = actor;
  const publish = await inTenant(organisationId, async (tx) => {
    const before = await mendsOfRecord(tx, id, recordId);
    // What an earlier try has written is only published.
    if (before.length > 0)
      return before.flatMap(({ card_id: cardId, was }) =>
        cardId && was && 'publish' in was && was.publish ? [{ cardId, version: was.version }] : [],
      );
    // Cards before their record, as everywhere.
    await holdCards(tx, await cardIdsOf(tx, [recordId]));
    if (!(await staffForUpdate(tx, recordId))) return [];
    const [planned] = await planSome(tx, actor, change, [recordId]);
    return planned ? write(running, planned, tx) : [];
  });
  for (const { cardId, version } of publish)
    try {
      await publishAsItIs(actor, cardId, clock, version);
    } catch (error) {
      if (!endsHere(error)) throw error;
      const problem = wordedFinding(error.problem);
      const was = { card: null, codes: [], version: 0, publish: false };
      await inTenant(organisationId, async (tx) => {
        const [known] = (await mendsOfRecord(tx, id, recordId)).filter(({ card_id }) => card_id === cardId);
        await keepMend(tx, { ...mend(running, recordId, cardId), was: known?.was ?? was, problem });
      });
    }
}

async function write(
  running: RunningJob,
  planned: PlannedPerson,
  tx: Parameters<typeof keepMend>[0],
): Promise<ToPublish[]> {
  const { actor, clock } = running;
  const { person, details, body, cards } = planned;
  if (details.length > 0) {
    const parsed = RecordSchema.safeParse(body);
    const wrote = parsed.success && (await writeRecord(tx, person.id, person.version, parsed.data, clock));
    if (!wrote) {
      const problem = wordedFinding({ code: 'INPUT', field: 'record' });
      await keepMend(tx, { ...mend(running, person.id, null), problem });
      return [];
    }
    const was = {
      details: Object.fromEntries(details.map((each) => [each.id, each.was])),
      version: person.version + 1,
    };
    await keepMend(tx, { ...mend(running, person.id, null), was });
    const subject = { kind: 'record', id: person.id } as const;
    await recordAudit(tx, actor, 'record.changed', subject, clock, { version: person.version + 1 });
  }
  const publish: ToPublish[] = [];
  for (const { row, next, publish: isOut, problem } of cards) {
    const own = mend(running, person.id, row.id);
    if (problem) await keepMend(tx, { ...own, problem: wordedFinding(problem) });
    else if (next || isOut) {
      if (next) {
        await updateCard(tx, row.id, row.version, { ...draftOf(row), ...next, updated_at: new Date(clock.now()) });
        const version = row.version + 1;
        await recordAudit(tx, actor, 'card.changed', { kind: 'card', id: row.id }, clock, { version });
      }
      const card = next ? { lines: row.lines, look: row.look } : null;
      const was = { card, codes: [], version: row.version + (next ? 1 : 0), publish: isOut };
      await keepMend(tx, { ...own, was });
      if (isOut) publish.push({ cardId: row.id, version: was.version });
    }
  }
  return publish;
}

/** How a house draws codes, its logo in them; null where there is no house style. */
async function houseCodes(actor: Actor, recordId: string): Promise<CodeStyle | null> {
  const held = await inTenant(actor.organisationId, (tx) => houseOf(tx, { record_id: recordId }));
  // An office alone says nothing of codes.
  if (!held?.mark.house) return null;
  const house = held.style;
  const logo = houseCodeLogo(house);
  const mark = logo && { ...(await markOfPicture(actor, logo.hash)), percent: logo.percent };
  return { ...houseCodeStyle(house.codes), ...(mark ? { mark } : {}) };
}

/** Draws the living codes of one person anew, each read back; one that would not be read stays as it is, and is told. */
async function restyleCodes(running: RunningJob, recordId: string): Promise<void> {
  const { id, actor, clock } = running;
  const style = await houseCodes(actor, recordId);
  const { codes, known } = await inTenant(actor.organisationId, async (tx) => ({
    codes: await codesOfCards(tx, await cardIdsOf(tx, [recordId])),
    known: new Set((await mendsOfRecord(tx, id, recordId)).map(({ card_id }) => card_id)),
  }));
  const byCard = new Map<string, typeof codes>();
  for (const row of codes)
    if (row.frozen === null && row.state === 'out' && !known.has(row.card_id))
      byCard.set(row.card_id, [...(byCard.get(row.card_id) ?? []), row]);
  for (const [cardId, rows] of byCard) {
    const own = mend(running, recordId, cardId);
    if (!style) {
      await inTenant(actor.organisationId, (tx) =>
        keepMend(tx, { ...own, problem: wordedFinding({ code: 'NO_HOUSE' }) }),
      );
      continue;
    }
    const made: { row: HandOutRow; drawn: DrawnCode; proof: ShownProof }[] = [];
    let problem: Finding | null = null;
    for (const row of rows) {
      const { drawn, proof } = await styled(row, { ...style, words: row.drawn?.style.words ?? '' });
      if (proof.faults.length === 0) made.push({ row, drawn, proof });
      else problem = wordedFinding({ code: 'CODE_UNREADABLE' });
    }
    await inTenant(actor.organisationId, async (tx) => {
      const before: CodeBefore[] = [];
      for (const { row, drawn, proof } of made) {
        if (!(await setDrawn(tx, row.id, drawn, proof))) continue;
        before.push({ id: row.id, drawn: row.drawn, proof: row.proof });
        await recordAudit(tx, actor, 'hand-out.styled', { kind: 'hand-out', id: row.id }, clock);
      }
      const was = before.length > 0 ? { card: null, codes: before, version: 0, publish: false } : null;
      await keepMend(tx, { ...own, was, problem });
    });
  }
}
