import { Refusal } from '@/core/errors';
import { readReply, typedOf } from '@/core/replies';
import type { Clock } from '@/server/clock';
import { cardsOfRecord } from '@/server/db/cards/cards';
import { codesOfCards } from '@/server/db/hand-outs/hand-outs';
import { inTenant } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';
import { authorise } from '@/server/services/accounts/authorise';
import { countOf } from '@/server/services/accounts/limit-rate';
import { ownRecordOf } from '@/server/services/hand-outs/hand-over';
import { loadPublished } from '@/server/services/publishing/load-published';
import { takeDown } from './take-reply';

export type HandedReply = {
  card: string;
  occasion: string | null;
  name: string;
  reach: string;
  note: string;
  /** When it was typed (ISO 8601, UTC): a phone may have had no network for days. */
  at: string;
};

/** A phone that was without a network for longer keeps the day on which it came back. */
const LONGEST_AGO_MS = 7 * 86_400_000;

/**
 * Takes down what somebody typed on the member's own phone, at one of the member's own cards. It was typed before the member's eyes, so that nothing of it looks
 * wrong; mails that it sends count as the member's. Errors: NOT_ALLOWED, NOT_FOUND, INPUT with the field at fault.
 */
export async function takeHanded(actor: Actor, reply: HandedReply, clock: Clock): Promise<{ mailed: boolean }> {
  authorise(actor, 'lead.keep');
  const code = await inTenant(actor, async (tx) => {
    const person = await ownRecordOf(tx, actor);
    const own = person ? (await cardsOfRecord(tx, person.id)).some(({ id }) => id === reply.card) : false;
    const codes = own ? await codesOfCards(tx, [reply.card]) : [];
    return (codes.find((row) => row.occasion_id === reply.occasion) ?? codes.at(-1))?.code;
  });
  const card = code ? await loadPublished({ code }, clock) : null;
  if (card?.state !== 'published') throw new Refusal({ code: 'NOT_FOUND' });
  const typed = { ...typedOf(() => null), name: reply.name, reach: reply.reach, note: reply.note };
  const read = readReply(typed, { country: actor.organisation.country, question: '' });
  if (!read.ok) throw new Refusal({ code: 'INPUT', field: Object.keys(read.wrong)[0] ?? 'name' });
  const mayMail = !(await countOf('message', actor.userId, clock)).beyond;
  const now = clock.now();
  const at = Math.min(now, Math.max(Date.parse(reply.at), now - LONGEST_AGO_MS));
  const language = card.composition.language ?? 'en';
  const { mailed } = await takeDown(
    card,
    { told: read.told, email: mayMail ? read.email : null, language, from: actor.userId, signs: null },
    { now: () => at },
  );
  return { mailed };
}
