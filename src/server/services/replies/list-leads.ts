import { cleanLine, internationalForm } from '@/core/record';
import { recordsWithin } from '@/core/access';
import { dayOf, startOfDay } from '@/core/response';
import type { LeadState, ListedLead } from '@/core/replies';
import { LIMITS } from '@/core/limits';
import type { Clock } from '@/server/clock';
import {
  countAt,
  countNew,
  dueOf,
  findLeads,
  listedLeads,
  topicsOf,
  type AskedLeads,
  type DueRow,
  type ListedLeadRow,
} from '@/server/db/contacts/leads';
import { inTenant, outsideTenants, type Tx } from '@/server/db/pool';
import { sortInbox } from '@/server/db/response/events';
import type { Actor } from '@/server/services/accounts/actor';
import { authorise } from '@/server/services/accounts/authorise';
import { usersWithin } from './within';

/** What a list of leads is narrowed to. `after` is the last one of the list before. */
export type LeadsAsked = {
  whose: 'mine' | 'all';
  state: LeadState | null;
  topic: string | null;
  occasion: string | null;
  due: boolean;
  words: string;
  after: { at: string; id: string } | null;
};

export const ALL_LEADS: LeadsAsked = {
  ...{ whose: 'mine', state: null, topic: null, occasion: null, due: false, words: '', after: null },
};

const STRETCH = 50;

export const listedLead = (row: ListedLeadRow): ListedLead => ({
  ...{
    id: row.id,
    name: row.written_name,
    state: row.state,
    private: row.private,
    topics: row.topics,
    waits: row.waits,
  },
  about: [row.title, row.firm].filter(Boolean).join(', '),
  reach: row.email ?? (row.phone ? internationalForm({ number: row.phone }) : ''),
  owner: { id: row.user_id, name: row.owner },
  ...{ came: row.came_at.toISOString(), last: row.last_at.toISOString(), by: row.came_by },
  ...{ where: row.where, due: row.due_on },
});

/** What the database is asked for such a list: within what the member reaches. */
export const wantedOf = async (
  tx: Tx,
  actor: Actor,
  asked: LeadsAsked,
  most: number,
  clock: Clock,
): Promise<AskedLeads> => ({
  users: asked.whose === 'mine' ? [actor.userId] : await usersWithin(tx, actor),
  ...{ state: asked.state, occasion: asked.occasion, after: asked.after, most },
  topic: asked.topic === null ? null : cleanLine(asked.topic).text,
  due: asked.due ? dayOf(clock.now(), actor.organisation.timeZone) : null,
  words: cleanLine(asked.words).text.slice(0, LIMITS.name).split(' ').filter(Boolean).slice(0, 8),
});

/** Leads, the latest first, fifty at a time. Error: NOT_ALLOWED. */
export async function listLeads(
  actor: Actor,
  asked: LeadsAsked,
  clock: Clock,
): Promise<{ leads: ListedLead[]; next: LeadsAsked['after'] }> {
  authorise(actor, 'lead.keep');
  return inTenant(actor, async (tx) => {
    const ids = await findLeads(tx, await wantedOf(tx, actor, asked, STRETCH + 1, clock));
    const leads = (await listedLeads(tx, ids.slice(0, STRETCH))).map(listedLead);
    const last = leads.at(-1);
    return { leads, next: ids.length > STRETCH && last ? { at: last.last, id: last.id } : null };
  });
}

/** What leads of the member can be narrowed by. Error: NOT_ALLOWED. */
export async function leadTopics(actor: Actor): Promise<string[]> {
  authorise(actor, 'lead.keep');
  return inTenant(actor, (tx) => topicsOf(tx, actor.userId, LIMITS.topics));
}

/** What recipients did today by the hand-outs of an occasion, as far as the member reaches their cards. Error: NOT_ALLOWED. */
export async function occasionToday(
  actor: Actor,
  occasionId: string,
  clock: Clock,
): Promise<{ views: number; saves: number }> {
  authorise(actor, 'lead.keep');
  const { timeZone } = actor.organisation;
  const since = new Date(startOfDay(dayOf(clock.now(), timeZone), timeZone));
  // What came in a moment ago counts as well.
  await outsideTenants(sortInbox);
  const records = recordsWithin(actor, 'response.read');
  return inTenant(actor, (tx) => countAt(tx, { occasionId, since, records: records === 'all' ? null : records }));
}

export type Due = { lead: string; id: string; name: string; due: string; what: string };

const MOST_DUE = 100;

/** What the member has to do by today, the oldest first, and how many of their leads are new. Error: NOT_ALLOWED. */
export async function dueToday(actor: Actor, clock: Clock): Promise<{ due: Due[]; today: string; fresh: number }> {
  authorise(actor, 'lead.keep');
  const today = dayOf(clock.now(), actor.organisation.timeZone);
  return inTenant(actor, async (tx) => ({
    due: (await dueOf(tx, actor.userId, today, MOST_DUE)).map(dueRow),
    today,
    fresh: await countNew(tx, actor.userId),
  }));
}

const dueRow = ({ contact_id: lead, id, name, due_on: due, what }: DueRow): Due => ({ lead, id, name, due, what });
