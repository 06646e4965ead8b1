import { randomUUID } from 'node:crypto';
import { reachOf } from '@/core/access';
import { Refusal } from '@/core/errors';
import { cardsOfRecord } from '@/server/db/cards/cards';
import { insertEntry, repliesOf, updateLead } from '@/server/db/contacts/leads';
import { inTenant } from '@/server/db/pool';
import type { Clock } from '@/server/clock';
import type { Actor } from '@/server/services/accounts/actor';
import { authorise } from '@/server/services/accounts/authorise';
import { ownRecordOf } from '@/server/services/hand-outs/hand-over';
import { sendMessage } from '@/server/services/hand-outs/message';
import { reachedLead } from './within';

/**
 * Sends a card of the member to a lead by mail. An address that was typed into a form and whose link nobody has followed gets no more than its one mail.
 * Errors: NOT_ALLOWED, NOT_FOUND, EMAIL_UNREADABLE, ADDRESS_UNCONFIRMED, and those of {@link sendMessage}.
 */
export async function sendCardTo(
  actor: Actor,
  id: string,
  { card, note }: { card: string; note: string },
  clock: Clock,
): Promise<void> {
  authorise(actor, 'hand-out.make');
  const { to, name, occasionId } = await inTenant(actor, async (tx) => {
    const row = await reachedLead(tx, actor, id);
    const mail = row.body.details.find((detail) => detail.kind === 'email');
    if (mail?.kind !== 'email') throw new Refusal({ code: 'EMAIL_UNREADABLE' });
    const told = (await repliesOf(tx, id)).filter(
      ({ address }) => address?.toLowerCase() === mail.address.toLowerCase(),
    );
    if (told.length > 0 && told.every(({ followed_at: followed }) => followed === null))
      throw new Refusal({ code: 'ADDRESS_UNCONFIRMED' });
    return { to: mail.address, name: row.written_name, occasionId: row.occasion_id };
  });
  await sendMessage(actor, card, { to, name, note, placement: '', occasionId }, clock);
  await inTenant(actor, async (tx) => {
    await reachedLead(tx, actor, id, 'locked');
    const now = new Date(clock.now());
    const own = { id: randomUUID(), organisation_id: actor.organisationId, contact_id: id, user_id: actor.userId };
    await insertEntry(tx, { ...own, kind: 'sent', at: now, place: '', text: '', private: false });
    await updateLead(tx, id, { last_at: now });
  });
}

/** The member's own cards that are out and that they may hand out. Error: NOT_ALLOWED. */
export async function ownCards(actor: Actor): Promise<{ id: string; audience: string }[]> {
  authorise(actor, 'lead.keep');
  if (reachOf(actor.role, 'hand-out.make') === 'none') return [];
  return inTenant(actor, async (tx) => {
    const person = await ownRecordOf(tx, actor);
    return (person ? await cardsOfRecord(tx, person.id) : [])
      .filter(({ state, is_private: hidden }) => state === 'published' && !hidden)
      .map(({ id, audience }) => ({ id, audience }));
  });
}
