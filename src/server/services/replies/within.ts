import { reachOf } from '@/core/access';
import { Refusal } from '@/core/errors';
import { usersOfRecords } from '@/server/db/accounts/accounts';
import type { Clock } from '@/server/clock';
import { lead, updateLead, type LeadRow } from '@/server/db/contacts/leads';
import { inTenant, type Tx } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';
import { authorise } from '@/server/services/accounts/authorise';

/** Whose leads a member reaches; null where it is anybody's of their organisation. What is private to others nobody reaches. */
export async function usersWithin(tx: Tx, actor: Actor): Promise<string[] | null> {
  const reach = reachOf(actor.role, 'lead.keep');
  if (reach === 'all') return null;
  const team = reach === 'team' ? await usersOfRecords(tx, [...actor.team]) : [];
  return [...new Set([actor.userId, ...team])];
}

/** A lead that the member reaches, locked where it is about to be changed. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function reachedLead(tx: Tx, actor: Actor, id: string, lock: 'locked' | null = null): Promise<LeadRow> {
  authorise(actor, 'lead.keep');
  const row = await lead(tx, id, lock);
  if (!row) throw new Refusal({ code: 'NOT_FOUND' });
  const users = row.user_id === actor.userId ? null : await usersWithin(tx, actor);
  if (users !== null && !users.includes(row.user_id)) throw new Refusal({ code: 'NOT_FOUND' });
  return row;
}

/** Does something with a lead and notes when somebody last had to do with it. */
export async function within(
  actor: Actor,
  id: string,
  clock: Clock,
  work: (tx: Tx, row: LeadRow, now: Date) => Promise<void>,
): Promise<void> {
  await inTenant(actor, async (tx) => {
    const row = await reachedLead(tx, actor, id, 'locked');
    const now = new Date(clock.now());
    await work(tx, row, now);
    if (now > row.last_at) await updateLead(tx, id, { last_at: now });
  });
}
