import { randomUUID } from 'node:crypto';
import { Refusal } from '@/core/errors';
import { differencesOf, withChosen, writtenName, type Difference } from '@/core/record';
import type { Clock } from '@/server/clock';
import { insertLead, setDue, updateLead, type LeadRow } from '@/server/db/contacts/leads';
import {
  deleteMerge,
  dropLead,
  insertMerge,
  latestMerge,
  moveBack,
  moveHanging,
  type MergeBefore,
} from '@/server/db/contacts/merges';
import { inTenant, type Tx } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { knownBy } from '@/server/services/contacts/contacts';
import { reachedLead } from './within';
import { linesOfLead } from './lead-lines';

const stored = (row: LeadRow): MergeBefore['kept'] => ({
  ...row,
  updated_at: row.updated_at.toISOString(),
  came_at: row.came_at.toISOString(),
  last_at: row.last_at.toISOString(),
});
const asRow = (row: MergeBefore['gone']): LeadRow => ({
  ...row,
  updated_at: new Date(row.updated_at),
  came_at: new Date(row.came_at),
  last_at: new Date(row.last_at),
});

/** Both of two leads, locked in one order whoever asks for which. What is private to somebody else is not there. */
async function both(tx: Tx, actor: Actor, id: string, other: string): Promise<[kept: LeadRow, gone: LeadRow]> {
  if (id === other) throw new Refusal({ code: 'NOT_FOUND' });
  const rows = new Map<string, LeadRow>();
  for (const each of [id, other].sort()) rows.set(each, await reachedLead(tx, actor, each, 'locked'));
  return [rows.get(id)!, rows.get(other)!];
}

/** The lines by which another lead differs, as imports compare them. Errors: NOT_ALLOWED, NOT_FOUND. */
export const compareLeads = (actor: Actor, id: string, other: string): Promise<Difference[]> =>
  inTenant(actor, async (tx) => {
    const kept = await reachedLead(tx, actor, id);
    const gone = await reachedLead(tx, actor, other);
    return differencesOf(kept.body, gone.body, false);
  });

/**
 * Makes one lead of two: `chosen` names the lines of the other that are taken over. Notes of a private one stay its owner's when the other is shared. Can be undone.
 * Errors: NOT_ALLOWED, NOT_FOUND.
 */
export async function mergeLeads(
  actor: Actor,
  id: string,
  { other, chosen }: { other: string; chosen: string[] },
  clock: Clock,
): Promise<void> {
  await inTenant(actor, async (tx) => {
    const [kept, gone] = await both(tx, actor, id, other);
    const body = withChosen(kept.body, gone.body, new Set(chosen));
    const topics = [...new Set([...kept.topics, ...gone.topics])];
    const { moved, madePrivate } = await moveHanging(tx, other, id);
    const now = new Date(clock.now());
    await updateLead(tx, id, {
      ...{ body, lines: linesOfLead(body), written_name: writtenName(body.name), version: kept.version + 1, topics },
      ...{ updated_at: now, last_at: new Date(Math.max(kept.last_at.getTime(), gone.last_at.getTime())) },
      ...knownBy(body, topics),
    });
    await dropLead(tx, other);
    await setDue(tx, id);
    const before = { kept: stored(kept), gone: stored(gone), moved, madePrivate };
    const own = { organisation_id: actor.organisationId, user_id: actor.userId, contact_id: id };
    await insertMerge(tx, { ...own, id: randomUUID(), at: now, private: kept.private || gone.private, before });
    await recordAudit(tx, actor, 'lead.merged', { kind: 'contact', id }, clock, { other });
  });
}

/** Makes two leads of one again, as they were; what was changed since stays with the one that is there. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function undoMerge(actor: Actor, id: string, merge: string, clock: Clock): Promise<{ other: string }> {
  return inTenant(actor, async (tx) => {
    const row = await reachedLead(tx, actor, id, 'locked');
    const latest = await latestMerge(tx, id);
    if (latest?.id !== merge) throw new Refusal({ code: 'NOT_FOUND' });
    const { kept, gone } = latest.before;
    const { due_on: _due, version: _version, ...back } = asRow(gone);
    await insertLead(tx, { ...back, ...knownBy(gone.body, gone.topics) });
    await moveBack(tx, merge);
    if (row.version === kept.version + 1)
      await updateLead(tx, id, {
        ...{ body: kept.body, lines: kept.lines, written_name: kept.written_name, topics: kept.topics },
        ...{ version: row.version + 1, updated_at: new Date(clock.now()), ...knownBy(kept.body, kept.topics) },
      });
    await setDue(tx, id);
    await setDue(tx, gone.id);
    await deleteMerge(tx, merge);
    await recordAudit(tx, actor, 'lead.merge-undone', { kind: 'contact', id }, clock, { other: gone.id });
    return { other: gone.id };
  });
}
