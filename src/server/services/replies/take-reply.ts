import { createHash, randomUUID } from 'node:crypto';
import { Refusal } from '@/core/errors';
import type { Language } from '@/core/language';
import { LIMITS, RATES, windowOf, type RateKind } from '@/core/limits';
import { CONSENT, consentIn } from '@/core/page';
import { writtenName } from '@/core/record';
import { contentOf, judgeReply, recordOfReply, type ReplySigns, type Told } from '@/core/replies';
import type { Clock } from '@/server/clock';
import { countWaiting, occasionOf } from '@/server/db/contacts/leads';
import { beginReply, takeReply } from '@/server/db/contacts/replies';
import { inTenant } from '@/server/db/pool';
import { rateKey } from '@/server/services/accounts/limit-rate';
import { knownBy } from '@/server/services/contacts/contacts';
import { mailIsOpen } from '@/server/services/mail/post-mail';
import type { PublishedCard } from '@/server/services/publishing/load-published';
import { linesOfLead } from './lead-lines';
import { postBoth } from './reply-mails';
import { hashOfToken, tokensOf } from './tokens';

/** A reply as it comes in: read, with what is known of how it was sent; `from` tells visitors apart and is hashed before it is kept. */
export type IncomingReply = {
  told: Told;
  email: string | null;
  language: Language;
  from: string;
  /** Null of what was typed before the holder's eyes. */
  signs: Pick<ReplySigns, 'hidden' | 'took' | 'sinceView'> | null;
};

/** What its sender is told: the lasting link's secret, whether a mail goes out, and whether the holder looks at it first. */
export type TakenAnswer = { token: string; mailed: boolean; waits: boolean };

const wordsOf = (told: Told) => [told.name, told.note, told.answer, told.firm, told.title].join(' ');

/**
 * Takes down what a recipient told, with both mails, in one transaction: all of it or nothing. The same sent once more within a day is the same reply. What looks
 * wrong waits for its holder's nod, and no mail goes out before. Errors: CARD_DELETED where nobody is there to take it, TOO_MANY_REQUESTS.
 */
export async function takeDown(card: PublishedCard, incoming: IncomingReply, clock: Clock): Promise<TakenAnswer> {
  const { organisationId, cardId } = card;
  const { told, email } = incoming;
  const asked: [kind: RateKind, asker: string][] = [
    ['replies of a card', cardId],
    ['reply', `${organisationId} ${incoming.from}`],
    ...(email === null ? [] : [['mail to a replier', email.toLowerCase()] as ['mail to a replier', string]]),
  ];
  const id = randomUUID();
  const content = createHash('sha256')
    .update(`${cardId} ${contentOf(told)}`)
    .digest('hex');
  const body = recordOfReply(told, card.country);
  const name = writtenName(card.composition.name);
  const tokens = tokensOf(id);
  const ids = { notice: randomUUID(), card: randomUUID() };
  return inTenant(organisationId, async (tx) => {
    // Locked in the order in which every reply counts them.
    const holder = await beginReply(
      tx,
      cardId,
      asked.map(([kind, asker]) => rateKey(kind, asker, clock)),
    );
    if (!holder) throw new Refusal({ code: 'CARD_DELETED' });
    const [many, one, often = false] = holder.counts.map((count, at) => count > RATES[asked[at]![0]].count);
    const wrong = incoming.signs
      ? judgeReply({ ...incoming.signs, words: wordsOf(told), manyFromOne: one!, manyToOne: many! })
      : [];
    // An address that nobody confirmed gets a few mails a day, from whatever card.
    const mailed = email !== null && mailIsOpen() && wrong.length === 0 && !often;
    if (incoming.signs && many && (await countWaiting(tx, cardId)) >= LIMITS.leadsOfCard)
      throw new Refusal({ code: 'TOO_MANY_REQUESTS', seconds: windowOf('replies of a card', clock.now()).secondsLeft });
    const taken = await takeReply(tx, {
      ...{ reply: id, contact: randomUUID(), user: holder.id, at: new Date(clock.now()), card: cardId },
      ...{ handOut: card.handOutId, told, by: incoming.signs ? ('reply' as const) : ('handed' as const) },
      // What is not its owner's own comes to somebody in the holder's place, who shares it.
      private: card.leads.private && holder.own,
      occasion: await occasionOf(tx, card.handOutId),
      consent: {
        ...{ number: CONSENT, language: incoming.language },
        sentence: consentIn(incoming.language, name, card.leads.months),
      },
      ...{ address: email, content, wrong, name: writtenName(body.name), body },
      pageHash: hashOfToken(tokens.page).toString('hex'),
      mailHash: hashOfToken(tokens.mail).toString('hex'),
      ...{ lines: linesOfLead(body), mails: Object.values(ids) },
      ...knownBy(body),
    });
    const to = { card, holder, taken, told, ids, email: mailed ? email : null, language: incoming.language };
    if (!taken.again && wrong.length === 0) await postBoth(tx, to, clock);
    return { token: taken.again ? tokensOf(taken.reply).page : tokens.page, mailed, waits: wrong.length > 0 };
  });
}
