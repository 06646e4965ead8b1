import { randomUUID } from 'node:crypto';
import { Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { cleanLine } from '@/core/record';
import type { LeadState } from '@/core/replies';
import type { Clock } from '@/server/clock';
import { eraseLead, handOverLead, insertEntry, nodTo, repliesOf, updateLead } from '@/server/db/contacts/leads';
import { holderOfCard, noteMailsOf } from '@/server/db/contacts/replies';
import { occasion } from '@/server/db/hand-outs/placements';
import { inTenant } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise } from '@/server/services/accounts/authorise';
import { countOf } from '@/server/services/accounts/limit-rate';
import { knownBy } from '@/server/services/contacts/contacts';
import { loadPublished } from '@/server/services/publishing/load-published';
import { currentAddress } from '@/server/db/cards/directory';
import { postBoth } from './reply-mails';
import { reachedLead, within } from './within';

export type LeadChange = {
  state?: LeadState | undefined;
  private?: boolean | undefined;
  topics?: string[] | undefined;
  occasion?: string | null | undefined;
};

/** Changes how a lead is kept. Whether it is private its owner says alone. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function changeLead(actor: Actor, id: string, change: LeadChange, clock: Clock): Promise<void> {
  await within(actor, id, clock, async (tx, row) => {
    const { state, private: hidden, topics, occasion: at } = change;
    if (hidden !== undefined && row.user_id !== actor.userId) throw new Refusal({ code: 'NOT_ALLOWED' });
    if (at && !(await occasion(tx, at))) throw new Refusal({ code: 'NOT_FOUND' });
    const named =
      topics &&
      [...new Set(topics.map((topic) => cleanLine(topic).text.slice(0, LIMITS.label)).filter(Boolean))].slice(0, 12);
    await updateLead(tx, id, {
      ...(state === undefined ? {} : { state }),
      ...(hidden === undefined ? {} : { private: hidden }),
      ...(at === undefined ? {} : { occasion_id: at }),
      ...(named === undefined ? {} : { topics: named, ...knownBy(row.body, named) }),
    });
    await recordAudit(tx, actor, 'lead.changed', { kind: 'contact', id }, clock);
  });
}

/** Makes a lead a colleague's, private or shared as it is; private notes of whoever hands it over go. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function passLead(actor: Actor, id: string, to: string, clock: Clock): Promise<void> {
  await inTenant(actor, async (tx) => {
    await reachedLead(tx, actor, id, 'locked');
    const own = { id: randomUUID(), organisation_id: actor.organisationId, contact_id: id, user_id: actor.userId };
    await insertEntry(tx, {
      ...own,
      kind: 'handed over',
      at: new Date(clock.now()),
      place: '',
      text: '',
      private: false,
    });
    if (!(await handOverLead(tx, id, to))) throw new Refusal({ code: 'NOT_FOUND' });
    await recordAudit(tx, actor, 'lead.handed-over', { kind: 'contact', id }, clock, { to });
  });
}

/** Says that a reply that looked wrong is one: both mails go out. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function nod(actor: Actor, id: string, reply: string, clock: Clock): Promise<void> {
  const found = await inTenant(actor, async (tx) => {
    await reachedLead(tx, actor, id);
    const row = (await repliesOf(tx, id)).find((each) => each.id === reply);
    return row && { row, address: await currentAddress(tx, row.card_id) };
  });
  if (!found) throw new Refusal({ code: 'NOT_FOUND' });
  const { row, address } = found;
  const card = address ? await loadPublished({ address }, clock).catch(() => null) : null;
  const mayMail =
    row.address !== null && !(await countOf('mail to a replier', row.address.toLowerCase(), clock)).beyond;
  await inTenant(actor, async (tx) => {
    await reachedLead(tx, actor, id, 'locked');
    // Whoever nods second sends nothing twice.
    if (!(await nodTo(tx, reply, new Date(clock.now())))) return;
    const holder = await holderOfCard(tx, row.card_id);
    if (card?.state === 'published' && holder) {
      const ids = { notice: randomUUID(), card: randomUUID() };
      await noteMailsOf(tx, reply, Object.values(ids));
      await postBoth(
        tx,
        {
          ...{ card, holder: { ...holder, confirmed: false }, taken: { reply, contact: id }, told: row.told, ids },
          ...{ email: mayMail ? row.address : null, language: row.consent.language },
        },
        clock,
      );
    }
    await recordAudit(tx, actor, 'lead.nodded', { kind: 'contact', id }, clock);
  });
}

/** Erases leads with all that was told and noted, as their people wish or as nobody needs them any more: all of them or none. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function removeLeads(actor: Actor, ids: string[], clock: Clock): Promise<void> {
  authorise(actor, 'lead.keep');
  await inTenant(actor, async (tx) => {
    // In the order of their ids, so that two who do the same wait for each other.
    for (const id of [...new Set(ids)].sort()) {
      await reachedLead(tx, actor, id, 'locked');
      await eraseLead(tx, id, new Date(clock.now()));
      await recordAudit(tx, actor, 'lead.erased', { kind: 'contact', id }, clock);
    }
  });
}

/** The same of one. */
export const removeLead = (actor: Actor, id: string, clock: Clock): Promise<void> => removeLeads(actor, [id], clock);
