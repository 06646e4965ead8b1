import { randomUUID } from 'node:crypto';
import { draftOf } from '@/core/card';
import { ChangeSchema, readChange, type Change } from '@/core/change';
import { orRefuse, Refusal, wordingOf, type Problem } from '@/core/errors';
import type { Finding } from '@/core/findings';
import { houseCodeLogo, houseCodeStyle } from '@/core/house';
import type { CodeStyle } from '@/core/qr';
import { RecordSchema } from '@/core/record';
import type { ShownProof } from '@/core/shown';
import type { Clock } from '@/server/clock';
import { cardIdsOf, holdCards, updateCard } from '@/server/db/cards/cards';
import { codesOfCards, setDrawn, type DrawnCode, type HandOutRow } from '@/server/db/hand-outs/hand-outs';
import { holdRecords, recordNames } from '@/server/db/cards/records';
import { inTenant, type Tx } from '@/server/db/pool';
import {
  keepMend,
  keepMends,
  mendsOfRecord,
  mendsOfRecords,
  type ChangedFrom,
  type CodeBefore,
  type MendRow,
} from '@/server/db/wild/mends';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit, recordAudits } from '@/server/services/accounts/audit';
import { styled } from '@/server/services/hand-outs/drawing';
import { markOfPicture } from '@/server/services/hand-outs/marks';
import { houseOf } from '@/server/services/house/house-style';
import { askForJob } from '@/server/services/jobs/jobs';
import { inLanes } from '@/server/services/jobs/lanes';
import type { RunningJob } from '@/server/services/jobs/run-job';
import { endsHere, publishTogether, type Seen } from '@/server/services/publishing/publish-together';
import { writeUnjudged } from '@/server/services/records/write-record';
import { judgeExposed } from '@/server/services/wild/judge';
import { publishAsItIs } from '@/server/services/wild/run-mend';
import { planSome, refuseChange, type PlannedPerson } from './plan';

/** So many people are written together, and so many such groups are under way: while one is proven, another is written. */
const TOGETHER = 20;
const LANES = 2;

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
  const job = await inTenant(actor, async (tx) => {
    if ((await recordNames(tx, records)).length < records.length) throw new Refusal({ code: 'NOT_FOUND' });
    const asked = await askForJob(tx, actor, { task: 'change-many', input, total: records.length }, clock);
    const subject = { kind: 'organisation', id: actor.organisationId } as const;
    await recordAudit(tx, actor, 'people.changed', subject, clock, { people: records.length });
    return asked;
  });
  return { job };
}

export const wordedFinding = (problem: Problem): Finding => ({ code: 'WORDED', sentence: wordingOf(problem) });

/** Carries a change out, some people at a time; a try after one that was cut off goes on where it stopped. */
export async function changeMany(running: RunningJob): Promise<Record<string, number>> {
  const { actor, input } = running;
  const records = String(input.records).split(',');
  refuseChange(actor, records);
  const change = ChangeSchema.parse(JSON.parse(String(input.change)));
  await inGroups(running, records, async (some) => {
    if (change.of !== 'codes') return changeSome(running, change, some);
    for (const recordId of some) await restyleCodes(running, recordId);
  });
  return { people: records.length };
}

/** Does something for groups of people, and tells how many have had it. */
export async function inGroups(
  { progress }: RunningJob,
  records: string[],
  each: (some: string[]) => Promise<void>,
): Promise<void> {
  const groups: string[][] = [];
  for (let at = 0; at < records.length; at += TOGETHER) groups.push(records.slice(at, at + TOGETHER));
  const inPeople = (done: number) => progress(Math.min(done * TOGETHER, records.length), records.length);
  await inLanes(groups, { lanes: LANES, progress: inPeople }, each);
}

const mend = ({ id, actor }: RunningJob, recordId: string, cardId: string | null) => ({
  ...{ id: randomUUID(), organisation_id: actor.organisationId, job_id: id, record_id: recordId, card_id: cardId },
  ...{ was: null as ChangedFrom | null, problem: null as Finding | null },
});
type Mend = ReturnType<typeof mend>;

/** Some people: written in one transaction, then their cards published that were as published before. */
async function changeSome(running: RunningJob, change: Change, records: string[]): Promise<void> {
  const { id, actor } = running;
  const publish = await inTenant(actor, async (tx) => {
    const before = await mendsOfRecords(tx, id, records);
    // What an earlier try has written is only published.
    const again = toPublish(before);
    const known = new Set(before.map(({ record_id }) => record_id));
    const fresh = records.filter((each) => !known.has(each));
    if (fresh.length === 0) return again;
    // Cards before their records, as everywhere.
    await holdCards(tx, await cardIdsOf(tx, fresh));
    await holdRecords(tx, fresh);
    return [...again, ...(await write(running, await planSome(tx, actor, change, fresh), tx))];
  });
  for (const [cardId, problem] of await publishAll(running, publish))
    await inTenant(actor, async (tx) => {
      const [known] = (await mendsOfRecords(tx, id, records)).filter(({ card_id }) => card_id === cardId);
      // Whose card it is its own entry tells, which was written with it.
      if (known) await keepMend(tx, { ...mend(running, known.record_id, cardId), was: known.was, problem });
    });
}

/** The cards that entries of a job have go out, as they were written with them. */
export const toPublish = (entries: MendRow[]): Seen[] =>
  entries.flatMap(({ card_id: cardId, was }) =>
    cardId && was && 'publish' in was && was.publish ? [{ cardId, version: was.version }] : [],
  );

/** Publishes cards as they were seen, together and, where somebody saved meanwhile, by themselves; answers with what kept which. */
export async function publishAll({ actor, clock }: RunningJob, cards: Seen[]): Promise<Map<string, Finding>> {
  if (cards.length === 0) return new Map();
  const { kept, outdated } = await publishTogether(actor, cards, clock);
  for (const { cardId, version } of outdated)
    try {
      await publishAsItIs(actor, cardId, clock, version);
    } catch (error) {
      if (!endsHere(error)) throw error;
      kept.set(cardId, error.problem);
    }
  return new Map([...kept].map(([cardId, problem]) => [cardId, wordedFinding(problem)]));
}

/** Writes some people as they were planned, with an entry for each that was changed or left; answers with the cards to publish. */
async function write(running: RunningJob, people: PlannedPerson[], tx: Tx): Promise<Seen[]> {
  const { actor, clock } = running;
  const mends: Mend[] = [];
  const written = { record: [] as Written[], card: [] as Written[] };
  const publish: Seen[] = [];
  for (const planned of people) {
    const { person, details, cards, problem: closed } = planned;
    if (closed) mends.push({ ...mend(running, person.id, null), problem: wordedFinding(closed) });
    if (details.length > 0) {
      const own = mend(running, person.id, null);
      if (!(await writeDetails(tx, planned, clock))) {
        mends.push({ ...own, problem: wordedFinding({ code: 'INPUT', field: 'record' }) });
        continue;
      }
      const was = Object.fromEntries(details.map((each) => [each.id, each.was]));
      const version = person.version + 1;
      mends.push({ ...own, was: { details: was, version } });
      written.record.push({ id: person.id, data: { version } });
    }
    for (const { row, next, publish: isOut, problem } of cards) {
      const own = mend(running, person.id, row.id);
      if (problem) mends.push({ ...own, problem: wordedFinding(problem) });
      else if (next || isOut) {
        if (next) {
          await updateCard(tx, row.id, row.version, { ...draftOf(row), ...next, updated_at: new Date(clock.now()) });
          written.card.push({ id: row.id, data: { version: row.version + 1 } });
        }
        const card = next ? { lines: row.lines, look: row.look } : null;
        const version = row.version + (next ? 1 : 0);
        mends.push({ ...own, was: { card, codes: [], version, publish: isOut } });
        if (isOut) publish.push({ cardId: row.id, version });
      }
    }
  }
  const changed = written.record.map(({ id }) => id);
  if (changed.length > 0) await judgeExposed(tx, changed);
  if (mends.length > 0) await keepMends(tx, mends);
  await recordAudits(tx, actor, 'record.changed', 'record', written.record, clock);
  await recordAudits(tx, actor, 'card.changed', 'card', written.card, clock);
  return publish;
}
type Written = { id: string; data: { version: number } };

async function writeDetails(tx: Tx, { person, body }: PlannedPerson, clock: Clock): Promise<boolean> {
  const parsed = RecordSchema.safeParse(body);
  return parsed.success && writeUnjudged(tx, person.id, person.version, parsed.data, clock);
}

/** How a house draws codes, its logo in them; null where there is no house style. */
async function houseCodes(actor: Actor, recordId: string): Promise<CodeStyle | null> {
  const held = await inTenant(actor, (tx) => houseOf(tx, { record_id: recordId }));
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
  const { codes, known } = await inTenant(actor, async (tx) => ({
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
      await inTenant(actor, (tx) => keepMend(tx, { ...own, problem: wordedFinding({ code: 'NO_HOUSE' }) }));
      continue;
    }
    const made: { row: HandOutRow; drawn: DrawnCode; proof: ShownProof }[] = [];
    let problem: Finding | null = null;
    for (const row of rows) {
      const { drawn, proof } = await styled(row, { ...style, words: row.drawn?.style.words ?? '' });
      if (proof.faults.length === 0) made.push({ row, drawn, proof });
      else problem = wordedFinding({ code: 'CODE_UNREADABLE' });
    }
    await inTenant(actor, async (tx) => {
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
