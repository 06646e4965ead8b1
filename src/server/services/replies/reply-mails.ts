import { writeLetter } from '@/core/letter';
import { longDayIn, type Language } from '@/core/language';
import { filled } from '@/core/messages';
import { replyWords } from '@/core/messages/replies';
import { writtenName } from '@/core/record';
import { recordOfReply, type Told } from '@/core/replies';
import { LEAD_LETTERS } from '@/core/words';
import type { Clock } from '@/server/clock';
import type { Holder, TakenReply } from '@/server/db/contacts/replies';
import type { Tx } from '@/server/db/pool';
import { publicUrlOf, settings } from '@/server/env';
import { wholeContactFile } from '@/server/services/contacts/contact-file';
import { contactOf } from '@/server/services/hand-outs/signature';
import { mailIsOpen, postUnwritten } from '@/server/services/mail/post-mail';
import type { PublishedCard } from '@/server/services/publishing/load-published';
import { linesOfLead } from './lead-lines';
import { tokensOf } from './tokens';

/** A mail that was asked for at a stand is of use for so long, in milliseconds. */
const HOLDS_MS = 4 * 86_400_000;

/** A card's contact file is the same for all who ask while the card is. */
const attached = new WeakMap<PublishedCard, ReturnType<typeof contactOf>>();
function attachmentOf(card: PublishedCard): ReturnType<typeof contactOf> {
  const made = attached.get(card) ?? contactOf(card);
  attached.set(card, made);
  return made;
}

type Both = {
  card: PublishedCard;
  holder: Holder;
  taken: Pick<TakenReply, 'reply' | 'contact'>;
  told: Told;
  /** Where the recipient's mail goes, or null where none does. */
  email: string | null;
  language: Language;
  /** The ids of the mails, which the reply names so that they go with it. */
  ids: { notice: string; card: string };
};

/** Both mails of a reply: the holder's names what was told, the recipient's nothing but the public card. */
export async function postBoth(
  tx: Tx,
  { card, holder, taken, told, email, language, ids }: Both,
  clock: Clock,
): Promise<void> {
  if (!mailIsOpen()) return;
  const { organisationId, country } = card;
  const common = { organisationId, userId: holder.id, urgent: true, holdsMs: HOLDS_MS };
  const posted: Parameters<typeof postUnwritten>[1] = [];
  // Nothing that somebody typed goes to an address that nobody has confirmed.
  if (holder.confirmed) {
    const row = { id: taken.contact, body: recordOfReply(told, country), updated_at: new Date(clock.now()) };
    const file = wholeContactFile({ ...row, lines: linesOfLead(row.body) }, country);
    const letter = writeLetter(
      LEAD_LETTERS.notice(holder.name, told, {
        card: card.placement,
        address: `${settings().BASE_URL}/leads/${taken.contact}`,
      }),
    );
    const attachments = [{ name: file.name, type: 'text/vcard; charset=utf-8', bytes: Buffer.from(file.text) }];
    const answerTo = told.reach.includes('@') ? told.reach : told.other.includes('@') ? told.other : null;
    const replyTo = answerTo ? { replyTo: { name: told.name, address: answerTo } } : {};
    posted.push({
      ...common,
      id: ids.notice,
      kind: 'reply',
      to: { name: holder.name, address: holder.email },
      letter,
      attachments,
      ...replyTo,
    });
  }
  if (email !== null) {
    const said = replyWords(language);
    const name = writtenName(card.composition.name);
    const link = `${publicUrlOf(organisationId)}/r/${tokensOf(taken.reply).mail}`;
    const date = longDayIn(language, card.timeZone, clock.now());
    const letter = writeLetter({
      ...{ language, subject: filled(said.mailSubject, { name }), greeting: said.mailHello, signed: name },
      paragraphs: [filled(said.mailText, { name, date })],
      act: { word: said.openCard, address: `${link}/card` },
      below: [said.mailOnce, `${said.mailHeld} ${link}`],
    });
    const attachments = [attachmentOf(card)];
    posted.push({
      ...common,
      id: ids.card,
      kind: 'card',
      to: { name: '', address: email },
      from: { name },
      letter,
      attachments,
    });
  }
  await postUnwritten(tx, posted, clock);
}
