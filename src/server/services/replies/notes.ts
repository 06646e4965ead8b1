import { randomUUID } from 'node:crypto';
import { Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { cleanLine, cleanText } from '@/core/record';
import type { HandKind } from '@/core/replies';
import type { Clock } from '@/server/clock';
import {
  countEntries,
  deleteEntry,
  deleteFollowUp,
  followUpsOf,
  insertEntry,
  insertFollowUp,
  setDue,
  updateEntry,
  updateFollowUp,
} from '@/server/db/contacts/leads';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { within } from './within';

export type NoteInput = {
  entry: string | null;
  kind: HandKind;
  at: string | null;
  place: string;
  text: string;
  private: boolean;
};

/** Notes something of a lead, or words a note of one's own anew. Errors: NOT_ALLOWED, NOT_FOUND, INPUT, TEXT_TOO_LONG, TOO_MANY_NOTES. */
export async function noteLead(actor: Actor, id: string, input: NoteInput, clock: Clock): Promise<void> {
  const text = cleanText(input.text).text.trim();
  if (text.length > LIMITS.note) throw new Refusal({ code: 'TEXT_TOO_LONG', limit: LIMITS.note });
  if (!text && input.kind === 'note') throw new Refusal({ code: 'INPUT', field: 'text' });
  const place = cleanLine(input.place).text.slice(0, LIMITS.name);
  await within(actor, id, clock, async (tx, _row, now) => {
    const noted = { at: input.at ? new Date(input.at) : now, place, text, private: input.private };
    if (input.entry !== null) {
      const key = { id: input.entry, contact_id: id, user_id: actor.userId };
      if ((await updateEntry(tx, key, noted)) === 0) throw new Refusal({ code: 'NOT_FOUND' });
      return;
    }
    if ((await countEntries(tx, id)) >= LIMITS.leadEntries)
      throw new Refusal({ code: 'TOO_MANY_NOTES', limit: LIMITS.leadEntries });
    const own = { id: randomUUID(), organisation_id: actor.organisationId, contact_id: id, user_id: actor.userId };
    await insertEntry(tx, { ...own, kind: input.kind, ...noted });
    await recordAudit(tx, actor, 'lead.noted', { kind: 'contact', id }, clock);
  });
}

/** Takes a note of one's own away. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function removeNote(actor: Actor, id: string, entry: string, clock: Clock): Promise<void> {
  await within(actor, id, clock, async (tx) => {
    if ((await deleteEntry(tx, { id: entry, contact_id: id, user_id: actor.userId })) === 0)
      throw new Refusal({ code: 'NOT_FOUND' });
  });
}

export type FollowUpInput = { followUp: string | null; due: string; what: string; done: boolean };

/** Notes what is to be done for a lead and when, changes it, or ticks it off. Errors: NOT_ALLOWED, NOT_FOUND, INPUT, TOO_MANY_NOTES. */
export async function followUp(actor: Actor, id: string, input: FollowUpInput, clock: Clock): Promise<void> {
  const what = cleanLine(input.what).text.slice(0, LIMITS.text);
  if (!what) throw new Refusal({ code: 'INPUT', field: 'what' });
  await within(actor, id, clock, async (tx, _row, now) => {
    if (input.followUp === null) {
      if ((await followUpsOf(tx, id)).length >= LIMITS.followUps)
        throw new Refusal({ code: 'TOO_MANY_NOTES', limit: LIMITS.followUps });
      const own = { id: randomUUID(), organisation_id: actor.organisationId, contact_id: id };
      await insertFollowUp(tx, { ...own, due_on: input.due, what, done_at: input.done ? now : null });
    } else {
      const change = { due_on: input.due, what, done_at: input.done ? now : null };
      if ((await updateFollowUp(tx, { id: input.followUp, contact_id: id }, change)) === 0)
        throw new Refusal({ code: 'NOT_FOUND' });
    }
    await setDue(tx, id);
  });
}

/** Takes away what was to be done. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function removeFollowUp(actor: Actor, id: string, which: string, clock: Clock): Promise<void> {
  await within(actor, id, clock, async (tx) => {
    if ((await deleteFollowUp(tx, { id: which, contact_id: id })) === 0) throw new Refusal({ code: 'NOT_FOUND' });
    await setDue(tx, id);
  });
}
