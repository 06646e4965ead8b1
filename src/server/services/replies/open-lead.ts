import { defaultLabel, shownValue, writtenName } from '@/core/record';
import { hrefOf } from '@/core/page';
import type { ShownLead } from '@/core/replies';
import { LIMITS } from '@/core/limits';
import { namedCards } from '@/server/db/cards/cards';
import { doublesOf, entriesOf, followUpsOf, listedLeads, repliesOf } from '@/server/db/contacts/leads';
import { latestMerge } from '@/server/db/contacts/merges';
import { inTenant } from '@/server/db/pool';
import { colleagues } from '@/server/db/accounts/accounts';
import type { Actor } from '@/server/services/accounts/actor';
import { authorise } from '@/server/services/accounts/authorise';
import { listedLead } from './list-leads';
import { reachedLead, usersWithin } from './within';

const MOST_DOUBLES = 10;
const MOST_HEIRS = 500;

/** A lead with all that was told and noted. Errors: NOT_ALLOWED, NOT_FOUND. */
export function openLead(actor: Actor, id: string): Promise<ShownLead> {
  return inTenant(actor, async (tx) => {
    const row = await reachedLead(tx, actor, id);
    const [listed] = await listedLeads(tx, [id]);
    const replies = await repliesOf(tx, id);
    const entries = await entriesOf(tx, id, LIMITS.leadEntries);
    const followUps = await followUpsOf(tx, id);
    const [of] = row.card_id ? await namedCards(tx, [row.card_id]) : [];
    const merge = await latestMerge(tx, id);
    return {
      ...listedLead(listed!),
      version: row.version,
      record: row.body,
      lines: row.body.details.map((detail) => ({
        ...{ id: detail.id, label: defaultLabel(detail), value: shownValue(detail), href: hrefOf(detail) },
      })),
      card: of ? { id: of.id, audience: of.audience } : null,
      occasion: row.occasion_id,
      replies: replies.map((reply) => ({
        ...{ id: reply.id, at: reply.at.toISOString(), told: reply.told, wrong: reply.looks_wrong ?? [] },
        waits: reply.looks_wrong !== null && reply.nodded_at === null,
        ...{ followed: reply.followed_at !== null, agreed: reply.views_agreed_at !== null },
        consent: reply.consent.sentence,
      })),
      entries: entries.map((entry) => ({
        ...{ id: entry.id, kind: entry.kind, at: entry.at.toISOString(), place: entry.place, text: entry.text },
        ...{ private: entry.private, by: entry.by, own: entry.user_id === actor.userId },
      })),
      followUps: followUps.map(({ id: each, due_on: due, what, done_at: done }) => ({
        ...{ id: each, due, what, done: done !== null },
      })),
      doubles: await doublesOf(tx, id, MOST_DOUBLES, await usersWithin(tx, actor)),
      merged: !merge
        ? null
        : { id: merge.id, at: merge.at.toISOString(), name: writtenName(merge.before.gone.body.name) },
    };
  });
}

/** Whom a lead can be handed over to: everybody else who keeps leads. Error: NOT_ALLOWED. */
export async function heirs(actor: Actor): Promise<{ id: string; name: string }[]> {
  authorise(actor, 'lead.keep');
  const all = await inTenant(actor, (tx) => colleagues(tx, MOST_HEIRS));
  return all.filter(({ id }) => id !== actor.userId);
}
