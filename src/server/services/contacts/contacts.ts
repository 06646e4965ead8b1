import { randomUUID } from 'node:crypto';
import {
  firstLines,
  firstTicks,
  isWarned,
  NAME_LINE,
  NOWHERE,
  PAGE_AND_FILE,
  privacyOf,
  reconcile,
  type Line,
} from '@/core/card';
import { Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import {
  cleanLine,
  defaultLabel,
  marksOf,
  RecordSchema,
  shownValue,
  splitName,
  writtenName,
  type Detail,
  type PersonRecord,
} from '@/core/record';
import { lineTypeOf } from '@/core/record/line-type';
import type { ListedContact, ShownContact } from '@/core/shown';
import { noLongerSaid } from '@/core/wild';
import type { Clock } from '@/server/clock';
import { compute } from '@/server/compute';
import {
  contactOf,
  contactsOf,
  countContacts,
  insertContact,
  referralsOf,
  updateContact,
  type ContactRow,
} from '@/server/db/contacts/contacts';
import { eraseLead } from '@/server/db/contacts/leads';
import { inTenant, type Tx } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise } from '@/server/services/accounts/authorise';

/** What somebody typed of a contact, or what a contact file holds. */
export type TypedContact = { name: string; details: Detail[] };

/** So many referrals of a contact are shown; all are in the audit trail. */
const SHOWN_REFERRALS = 50;

/** A record of it that can be passed on: no pictures, and an id for each detail that no other has. Errors: NAME_MISSING, TEXT_TOO_LONG, TOO_MANY_DETAILS. */
export function bodyOf({ name, details }: TypedContact): PersonRecord {
  const written = cleanLine(name).text;
  if (!written) throw new Refusal({ code: 'NAME_MISSING' });
  if (written.length > LIMITS.name) throw new Refusal({ code: 'TEXT_TOO_LONG', limit: LIMITS.name });
  const kept = details.filter(({ kind }) => kind !== 'photo' && kind !== 'logo');
  if (kept.length > LIMITS.contactDetails)
    throw new Refusal({ code: 'TOO_MANY_DETAILS', limit: LIMITS.contactDetails });
  const used = new Set<string>([NAME_LINE]);
  const own = kept.map((detail) => {
    const id = used.has(detail.id) ? randomUUID() : detail.id;
    used.add(id);
    return { ...detail, id };
  });
  return { name: splitName(written), details: own, kept: [] };
}

const ticked = (line: Line, on: boolean): Line => ({
  ...line,
  ticks: on || line.detail === NAME_LINE ? PAGE_AND_FILE : NOWHERE,
});

/** The contacts of the member by name. Error: NOT_ALLOWED. */
export async function listContacts(actor: Actor): Promise<ListedContact[]> {
  authorise(actor, 'contact.refer');
  const rows = await inTenant(actor, (tx) => contactsOf(tx, actor.userId, LIMITS.contacts));
  return rows.map(({ id, written_name: name, last_at: at, last_way: way }) => ({
    id,
    name,
    last: at && way ? { at: at.toISOString(), way } : null,
  }));
}

/** Notes somebody whom the member may refer; what is positively for work is ticked, the rest goes nowhere. Errors: NOT_ALLOWED, CONTACTS_FULL, and those of what was typed. */
export async function addContact(actor: Actor, typed: TypedContact, clock: Clock): Promise<{ id: string }> {
  authorise(actor, 'contact.refer');
  const body = bodyOf(typed);
  const id = randomUUID();
  const lines = firstLines(body, { isPrivate: false }, lineTypeOf).map((line) => ticked(line, line.ticks.file));
  await inTenant(actor, async (tx) => {
    if ((await countContacts(tx, actor.userId)) >= LIMITS.contacts)
      throw new Refusal({ code: 'CONTACTS_FULL', limit: LIMITS.contacts });
    await insertContact(tx, {
      ...{ id, organisation_id: actor.organisationId, user_id: actor.userId, body, lines },
      written_name: writtenName(body.name),
      updated_at: new Date(clock.now()),
      ...knownBy(body),
    });
    await recordAudit(tx, actor, 'contact.added', { kind: 'contact', id }, clock);
  });
  return { id };
}

/** The same from a contact file of one contact. Errors: NOT_A_CONTACT_FILE, CONTACT_FILE_EMPTY, TOO_MANY_CONTACTS, TOO_BUSY, and those of {@link addContact}. */
export async function addContactFile(actor: Actor, bytes: Buffer, clock: Clock): Promise<{ id: string }> {
  authorise(actor, 'contact.refer');
  const { country } = actor.organisation;
  const contact = await compute('single contact', { bytes, country }, { of: actor.organisationId });
  if (!contact) throw new Refusal({ code: 'TOO_MANY_CONTACTS', limit: 1, found: 2 });
  const read = RecordSchema.safeParse(contact.record);
  if (!read.success) throw new Refusal({ code: 'INPUT', field: 'record' });
  const { name, details } = read.data;
  return addContact(actor, { name: writtenName(name), details }, clock);
}

/** Errors: NOT_ALLOWED, NOT_FOUND. */
export async function ownContact(tx: Tx, actor: Actor, id: string, lock: 'locked' | null = null): Promise<ContactRow> {
  const row = await contactOf(tx, actor.userId, id, lock);
  if (!row) throw new Refusal({ code: 'NOT_FOUND' });
  return row;
}

/** A contact with its ledger, and how it was referred so far. Errors: NOT_ALLOWED, NOT_FOUND. */
export function openContact(actor: Actor, id: string, clock: Clock): Promise<ShownContact> {
  authorise(actor, 'contact.refer');
  return inTenant(actor, async (tx) => {
    const { version, body, lines } = await ownContact(tx, actor, id);
    const referrals = await referralsOf(tx, id, SHOWN_REFERRALS);
    const of = new Map(body.details.map((detail) => [detail.id, detail]));
    return {
      ...{ id, version, name: writtenName(body.name), record: body },
      lines: lines.flatMap((line) => {
        const detail = of.get(line.detail);
        if (!detail) return [];
        const privacy = privacyOf(detail, body, lineTypeOf);
        return [
          {
            ...{ id: detail.id, label: defaultLabel(detail), value: shownValue(detail) },
            ...{ privacy: isWarned(privacy) ? privacy : null, ticked: line.ticks.file },
          },
        ];
      }),
      emails: body.details.flatMap((detail) => (detail.kind === 'email' ? [detail.address] : [])),
      referrals: referrals.map(({ id: referral, way, at, lines: count, ends_at: ends, carried }) => ({
        ...{ id: referral, way, at: at.toISOString(), lines: count },
        ends: ends?.toISOString() ?? null,
        holds: ends !== null && ends.getTime() > clock.now(),
        old: noLongerSaid(carried, body),
      })),
    };
  });
}

/** Keeps what a contact is, and which lines go along: `ticked` names them, what came since is ticked as at first. Errors: RECORD_CHANGED, and those of {@link addContact}. */
export async function changeContact(
  actor: Actor,
  id: string,
  { baseVersion, ticked: wanted, ...typed }: TypedContact & { baseVersion: number; ticked: string[] },
  clock: Clock,
): Promise<ShownContact> {
  authorise(actor, 'contact.refer');
  const body = bodyOf(typed);
  await inTenant(actor, async (tx) => {
    const row = await ownContact(tx, actor, id, 'locked');
    if (row.version !== baseVersion) throw new Refusal({ code: 'RECORD_CHANGED', version: row.version });
    const [known, on] = [new Set(row.lines.map(({ detail }) => detail)), new Set(wanted)];
    const lines = reconcile(row.lines, body).map((line) => {
      const detail = body.details.find((each) => each.id === line.detail);
      const isNew = detail && !known.has(detail.id);
      return ticked(
        line,
        isNew ? firstTicks(detail, body, { isPrivate: false }, lineTypeOf).file : on.has(line.detail),
      );
    });
    const change = { body, lines, version: row.version + 1, updated_at: new Date(clock.now()) };
    await updateContact(tx, id, { ...change, written_name: writtenName(body.name), ...knownBy(body) });
    await recordAudit(tx, actor, 'contact.changed', { kind: 'contact', id }, clock);
  });
  return openContact(actor, id, clock);
}

/** By what somebody is known again, and what they are searched by. */
export const knownBy = (body: PersonRecord, topics: string[] = []): { marks: string[]; words: string } => ({
  marks: marksOf(body),
  words: [writtenName(body.name), ...body.details.map((detail) => shownValue(detail).slice(0, 200)), ...topics].join(
    ' ',
  ),
});

/** Removes a contact with its links, which end, and everything that was told and noted of them. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function removeContact(actor: Actor, id: string, clock: Clock): Promise<void> {
  authorise(actor, 'contact.refer');
  await inTenant(actor, async (tx) => {
    await ownContact(tx, actor, id, 'locked');
    await eraseLead(tx, id, new Date(clock.now()));
    await recordAudit(tx, actor, 'contact.removed', { kind: 'contact', id }, clock);
  });
}
