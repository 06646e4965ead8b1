import { draftOf, NOWHERE, privacyOf, reconcile } from '@/core/card';
import { Refusal } from '@/core/errors';
import { RecordSchema, writtenName, type Detail, type PersonRecord } from '@/core/record';
import { lineTypeOf } from '@/core/record/line-type';
import {
  applyRow,
  changesBy,
  linesLike,
  slotIds,
  wordsLike,
  type Changed,
  type Outcome,
  type Pattern,
  type RowRead,
  type RunOptions,
  type Written,
} from '@/core/roster';
import type { Clock } from '@/server/clock';
import { card, cardForUpdate, insertCard, updateCard, type CardRow } from '@/server/db/cards/cards';
import { insertRecord, record } from '@/server/db/cards/records';
import { setOffice } from '@/server/db/house/offices';
import type { Tx } from '@/server/db/pool';
import { rosterPicture, type RosterPicture } from '@/server/db/roster/pictures';
import type { Before, RosterRow } from '@/server/db/roster/rows';
import { releaseNumber, staffForUpdate, writeStaff, type StaffRow } from '@/server/db/roster/staff';
import { setTeams } from '@/server/db/roster/teams';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { movedTo } from '@/server/services/house/offices';
import { idWithin } from '@/server/services/imports/import-contact';
import { writeRecord } from '@/server/services/records/write-record';
import { knownFrom, officesByName, takesPicture, type OwnedKinds } from './known';

/** What a run makes people by. */
export type Making = {
  runId: string;
  actor: Actor;
  clock: Clock;
  options: RunOptions;
  pattern: Pattern & { isPrivate: boolean };
  owned: OwnedKinds;
};

export type Done = {
  outcome: Outcome;
  record_id: string;
  card_id: string | null;
  before: Before | null;
  made_version: number | null;
};

/** The card that a run makes others like. Error: NOT_FOUND where it is gone. */
export async function loadPattern(tx: Tx, cardId: string | null): Promise<Making['pattern']> {
  const row = cardId === null ? undefined : await card(tx, cardId);
  const person = row && (await record(tx, row.record_id));
  if (!row || !person) throw new Refusal({ code: 'NOT_FOUND' });
  return { ...draftOf(row), lines: reconcile(row.lines, person.body), record: person.body, isPrivate: row.is_private };
}

const asDetail = (id: string, { square, crop }: RosterPicture): Detail => ({
  ...{ kind: 'photo' as const, id, label: '', preferred: false, picture: square! },
  ...(crop ? { crop } : {}),
});

const isPrivateIn = (body: PersonRecord) => (detail: Detail) => privacyOf(detail, body, lineTypeOf) !== null;

/** A record that the schema of records takes; what does not fit is told and nothing is written. Error: INPUT. */
function checked(body: PersonRecord): PersonRecord {
  const parsed = RecordSchema.safeParse(body);
  if (!parsed.success) throw new Refusal({ code: 'INPUT', field: String(parsed.error.issues[0]?.path[0] ?? 'record') });
  return parsed.data;
}

/** Somebody new: a record, and a card like the pattern. The ids are the row's own, so that a second try makes nobody twice. */
export async function makePerson(tx: Tx, making: Making, row: RosterRow, read: RowRead): Promise<Done> {
  const { actor, clock, pattern, runId } = making;
  const [recordId, cardId] = [idWithin(runId, `record ${row.at}`), idWithin(runId, `card ${row.at}`)];
  const ids = slotIds(pattern);
  const applied = applyRow(read, null, { ids });
  const file = row.picture === null ? undefined : await rosterPicture(tx, runId, row.picture);
  const photo = pattern.record.details.find(({ kind }) => kind === 'photo')?.id ?? 'photo';
  const pictured = file?.square ? [asDetail(photo, file)] : [];
  const body = checked({ ...applied.record, details: [...applied.record.details, ...pictured] });
  const written: Written = pictured.length
    ? { ...applied.written, photo: { id: photo, said: file!.square! } }
    : applied.written;
  // Only where somebody decided so: two runs of one sheet would take each other's people for somebody else.
  if (read.staffNumber !== null && row.decision === 'new') await releaseNumber(tx, read.staffNumber);
  const own = { organisation_id: actor.organisationId, updated_at: new Date(clock.now()) };
  await insertRecord(tx, { id: recordId, ...own, written_name: writtenName(body.name), body });
  await writeStaff(tx, recordId, {
    ...{ staff_number: read.staffNumber, joins_on: read.joins, leaves_on: read.leaves },
    roster: { written, card: cardId, instead: making.options.instead },
  });
  if (read.teams) await setTeams(tx, actor.organisationId, recordId, read.teams);
  if (read.office) await setOffice(tx, [recordId], await officeNamed(tx, read.office));
  await insertCard(tx, {
    ...{ id: cardId, ...own, record_id: recordId, audience: pattern.audience, is_private: pattern.isPrivate },
    lines: linesLike(pattern, body, isPrivateIn(body), making.options.privateToo),
    ...{ blocks: pattern.blocks, opens: pattern.opens, words: wordsLike(pattern), language: pattern.language },
    look: { ...pattern.look, overrides: [] },
  });
  const details = body.details.length;
  await recordAudit(tx, actor, 'record.imported', { kind: 'record', id: recordId }, clock, { details });
  await recordAudit(tx, actor, 'card.made', { kind: 'card', id: cardId }, clock);
  return { outcome: 'made', record_id: recordId, card_id: cardId, before: null, made_version: 1 };
}

/** The office of a name. Error: INPUT where it is gone since the review. */
async function officeNamed(tx: Tx, name: string): Promise<string> {
  const found = (await officesByName(tx)).get(name.toLowerCase());
  if (!found) throw new Refusal({ code: 'INPUT', field: 'office' });
  return found;
}

/** Lines for details that a record has only now, on the card that a roster made of it: as the pattern has them. */
async function showAsPattern(
  tx: Tx,
  making: Making,
  locked: CardRow | undefined,
  was: PersonRecord,
  now: PersonRecord,
) {
  if (!locked) return;
  const { pattern, options, clock } = making;
  const had = new Set(was.details.map(({ id }) => id));
  const like = new Map(pattern.lines.map((line) => [line.detail, line]));
  const isPrivate = isPrivateIn(now);
  let added = false;
  const lines = reconcile(locked.lines, now).map((line) => {
    const detail = now.details.find(({ id }) => id === line.detail);
    const model = like.get(line.detail);
    if (!detail || !model || model.own || had.has(line.detail)) return line;
    added = true;
    const ticks = isPrivate(detail) && !options.privateToo ? NOWHERE : model.ticks;
    return { ...line, ticks, label: model.label, part: model.part, emphasis: model.emphasis, gap: model.gap };
  });
  if (added)
    await updateCard(tx, locked.id, locked.version, { ...draftOf(locked), lines, updated_at: new Date(clock.now()) });
}

/**
 * Somebody who is known: what the row says of them today, held against what they say today. What is not the organisation's and was changed
 * since a roster wrote it stays. Errors: NOT_FOUND where somebody deleted them, RECORD_CHANGED.
 */
export async function changePerson(
  tx: Tx,
  making: Making,
  row: RosterRow,
  read: RowRead,
  seen: StaffRow,
): Promise<Done> {
  const { actor, clock, owned, pattern, runId } = making;
  const made = seen.roster.card ?? null;
  // Cards before their record, as everywhere; and whoever types into the record is waited for.
  const locked = made === null ? undefined : await cardForUpdate(tx, made);
  const known = await staffForUpdate(tx, seen.id);
  if (!known) throw new Refusal({ code: 'NOT_FOUND' });
  const { changes, kept } = changesBy(read, knownFrom(known), owned);
  const file = row.picture === null ? undefined : await rosterPicture(tx, runId, row.picture);
  const pictured = file?.picture && file.square && takesPicture(known, file.picture, owned) === 'takes' ? file : null;
  const as = { record_id: known.id, card_id: locked?.id ?? null };
  const written = known.roster.written ?? {};
  const applied = applyRow(read, known.body, { written, ids: slotIds(pattern), without: kept });
  if (changes.length === 0 && !pictured) {
    await writeStaff(tx, known.id, { roster: { ...known.roster, written: applied.written } });
    return { ...as, outcome: 'as it was', before: null, made_version: null };
  }
  const photo = known.body.details.find(({ kind }) => kind === 'photo')?.id ?? photoOf(pattern);
  const details = pictured
    ? [...applied.record.details.filter(({ id }) => id !== photo), asDetail(photo, pictured)]
    : applied.record.details;
  const body = checked({ ...applied.record, details });
  await showAsPattern(tx, making, locked, known.body, body);
  if (!(await writeRecord(tx, known.id, known.version, body, clock)))
    throw new Refusal({ code: 'RECORD_CHANGED', version: known.version });
  const says = (of: Changed) => changes.some((each) => each.of === of);
  await writeStaff(tx, known.id, {
    ...(says('staff number') ? { staff_number: read.staffNumber } : {}),
    ...(says('joins') ? { joins_on: read.joins } : {}),
    ...(says('leaves') ? { leaves_on: read.leaves } : {}),
    roster: {
      ...known.roster,
      ...(says('leaves') ? { instead: making.options.instead } : {}),
      written: { ...applied.written, ...(pictured ? { photo: { id: photo, said: pictured.square! } } : {}) },
    },
  });
  if (says('office')) await movedTo(tx, [known.id], await officeNamed(tx, read.office!));
  if (says('team')) await setTeams(tx, actor.organisationId, known.id, read.teams!);
  const version = known.version + 1;
  await recordAudit(tx, actor, 'record.changed', { kind: 'record', id: known.id }, clock, { version });
  return { ...as, outcome: says('leaves') ? 'left' : 'changed', before: beforeOf(known), made_version: version };
}

const photoOf = ({ record: { details } }: Pattern): string =>
  details.find(({ kind }) => kind === 'photo')?.id ?? 'photo';

const beforeOf = (known: StaffRow): Before => ({
  ...{ body: known.body, written: known.roster.written ?? {}, staffNumber: known.staff_number },
  ...{ joins: known.joins_on, leaves: known.leaves_on },
  ...{ teams: known.teams, office: known.office },
});

/** Somebody whom a complete sheet no longer has: they leave on the day that the review said. */
export async function letGo(tx: Tx, making: Making, row: RosterRow, known: StaffRow): Promise<Done> {
  const day =
    row.changes.find(({ of }) => of === 'leaves')?.is ?? new Date(making.clock.now()).toISOString().slice(0, 10);
  await writeStaff(tx, known.id, { leaves_on: day, roster: { ...known.roster, instead: making.options.instead } });
  await recordAudit(tx, making.actor, 'record.changed', { kind: 'record', id: known.id }, making.clock);
  const as = { record_id: known.id, card_id: known.roster.card ?? null };
  return { ...as, outcome: 'left', before: beforeOf(known), made_version: known.version };
}
