import { saidIn } from '@/core/card';
import { orRefuse, Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { wordsAbove } from '@/core/letter';
import { cleanLine, cleanText, readEmail, writtenName } from '@/core/record';
import { FIRST_SIGNATURE } from '@/core/signature';
import type { Clock } from '@/server/clock';
import { compute } from '@/server/compute';
import { inTenant } from '@/server/db/pool';
import { freshMessageId, writeMail } from '@/server/mail';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise } from '@/server/services/accounts/authorise';
import { limitRate } from '@/server/services/accounts/limit-rate';
import { mailIsOpen, postMail } from '@/server/services/mail/post-mail';
import { loadPublished } from '@/server/services/publishing/load-published';
import { withheldOf } from '@/server/services/publishing/prove-card';
import { noteAttached, takenOf } from '@/server/services/wild/note-copy';
import { linkOf, plainName } from './own';
import { reusedHandOut } from './reused';
import { contactOf } from './signature';

/** Where nobody says where it goes. */
const PLACEMENT = 'Message';
/** A message is of use for so long, in milliseconds. */
const HOLDS_MS = 4 * 86_400_000;

export type MessageInput = { note: string; placement: string; occasionId: string | null };

/** A message with the card in it as text, its contact file attached: what is ticked for the file, and nothing else. Errors: PROOF_FAILED, TOO_BUSY, and those of {@link reusedHandOut}. */
async function messageOf(actor: Actor, cardId: string, { note, placement, occasionId }: MessageInput, clock: Clock) {
  const wanted = { channel: 'message' as const, placement: placement.trim() || PLACEMENT, occasionId };
  const { id, code } = await reusedHandOut(actor, cardId, wanted, clock);
  const served = await loadPublished({ code }, clock);
  // The hand-out may rest by itself.
  if (served?.state !== 'published') throw new Refusal({ code: 'CARD_NOT_PUBLISHED' });
  const link = linkOf({ organisation_id: actor.organisationId, code });
  const language = served.composition.language ?? 'en';
  const composition = saidIn(served.composition, language);
  const { signature, proof } = await compute(
    'signature',
    {
      ...{ composition, layout: 'below', parts: { ...FIRST_SIGNATURE.reply, link: true }, channel: 'file' },
      context: { language, link, photo: null, logo: null },
      held: { withheld: await withheldOf(served, 'file'), link, pictures: 'linked', pictureBytes: 0 },
    },
    { of: actor.organisationId },
  );
  const failing = proof.checks.find(({ passed }) => !passed);
  if (failing) throw new Refusal({ code: 'PROOF_FAILED', channel: 'message', finding: failing.finding });
  const words = cleanText(note).text.slice(0, LIMITS.text).trim();
  const name = writtenName(composition.name);
  return {
    attached: takenOf({ id }, served, clock),
    composition: served.composition,
    name,
    letter: { subject: name, ...wordsAbove(words, signature) },
    attachments: [contactOf(served)],
  };
}

/**
 * Sends a card to somebody by mail, whose answer goes to the member. Nothing of the recipient is kept once it is sent. Errors: NOT_ALLOWED, EMAIL_UNCONFIRMED,
 * MAIL_CLOSED, EMAIL_UNREADABLE, TOO_MANY_REQUESTS, TOO_MUCH_MAIL, and those of {@link messageOf}.
 */
export async function sendMessage(
  actor: Actor,
  cardId: string,
  input: MessageInput & { to: string; name: string },
  clock: Clock,
): Promise<void> {
  authorise(actor, 'hand-out.make');
  if (!mailIsOpen()) throw new Refusal({ code: 'MAIL_CLOSED' });
  // Whoever signs up could write to anybody in anybody's name.
  if (!actor.emailConfirmed) throw new Refusal({ code: 'EMAIL_UNCONFIRMED' });
  const to = { name: cleanLine(input.name).text.slice(0, LIMITS.name), address: orRefuse(readEmail(input.to)) };
  await limitRate('message', actor.userId, clock);
  const { name, letter, attachments, attached, composition } = await messageOf(actor, cardId, input, clock);
  await inTenant(actor, async (tx) => {
    await noteAttached(tx, attached, composition, actor.organisation.country);
    const who = { organisationId: actor.organisationId, userId: actor.userId };
    const replyTo = { name, address: actor.email };
    const what = { kind: 'message', urgent: false, holdsMs: HOLDS_MS, from: { name }, replyTo, letter, attachments };
    await postMail(tx, { ...who, ...what, to }, clock);
    await recordAudit(tx, actor, 'card.sent', { kind: 'card', id: cardId }, clock);
  });
}

/** The same as a draft for a mail program of one's own. Errors: NOT_ALLOWED and those of {@link messageOf}. */
export async function messageDraft(
  actor: Actor,
  cardId: string,
  input: MessageInput,
  clock: Clock,
): Promise<{ bytes: Buffer; fileName: string }> {
  authorise(actor, 'hand-out.make');
  const { name, letter, attachments, attached, composition } = await messageOf(actor, cardId, input, clock);
  await inTenant(actor, (tx) => noteAttached(tx, attached, composition, actor.organisation.country));
  const from = { name, address: actor.email };
  const bytes = await writeMail({
    ...{ id: freshMessageId(actor.email), date: new Date(clock.now()), from, to: from, draft: true, attachments },
    ...letter,
  });
  return { bytes, fileName: `${plainName(name) || 'card'}.eml` };
}
