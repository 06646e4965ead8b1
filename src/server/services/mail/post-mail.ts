import { randomUUID } from 'node:crypto';
import { Refusal } from '@/core/errors';
import type { WrittenLetter } from '@/core/letter';
import { LIMITS } from '@/core/limits';
import type { MailAllowed } from '@/core/shown';
import type { Clock } from '@/server/clock';
import { countWaitingMail, insertMail, insertUrgentMails, type OutboxRow } from '@/server/db/mail/outbox';
import type { Tx } from '@/server/db/pool';
import { settings } from '@/server/env';
import type { Actor } from '@/server/services/accounts/actor';
import { messageIdOf, unwrittenMail, writeMail, type Correspondent, type Letter } from '@/server/mail';

/** Whether mail leaves this installation at all. */
export const mailIsOpen = (): boolean => settings().MAIL_SERVER !== undefined;

/** Whether a member may write to others from here. */
export const mailFor = ({ emailConfirmed }: Actor): MailAllowed =>
  !mailIsOpen() ? 'closed' : emailConfirmed ? 'yes' : 'unconfirmed';

type Posted = {
  organisationId: string;
  /** Who caused it, or whose account it is about. */
  userId: string;
  /** What it is, in a word or two; for figures and the log. */
  kind: string;
  /** Somebody waits in front of their letter box: it goes before what others have waiting. */
  urgent: boolean;
  /** After so many milliseconds it is of no use any more. */
  holdsMs: number;
  to: Correspondent;
  from?: { name: string };
  replyTo?: Correspondent;
  letter: WrittenLetter;
  attachments?: Letter['attachments'];
  /** Its id, where that is to be known before. */
  id?: string;
};

/** Whether a further mail of an organisation may wait with those that do. */
export const hasRoomForMail = async (tx: Tx): Promise<boolean> => (await countWaitingMail(tx)) < LIMITS.mailsWaiting;

/**
 * Puts a finished mail into the outbox, in the transaction of the act that causes it: either both are there or neither. It is sent with the same bytes and the
 * same Message-ID however often that is tried. Errors: MAIL_CLOSED, TOO_MUCH_MAIL, EMAIL_UNREADABLE.
 */
export async function postMail(tx: Tx, posted: Posted, clock: Clock): Promise<string> {
  if (!posted.urgent && mailIsOpen() && !(await hasRoomForMail(tx)))
    throw new Refusal({ code: 'TOO_MUCH_MAIL', limit: LIMITS.mailsWaiting });
  const { mail, row } = rowOf(posted, clock);
  await insertMail(tx, { ...row, message: await writeMail(mail) }, posted.urgent);
  return row.id;
}

/** The same of several for which somebody waits, at once; they are written by whoever sends them. Errors: MAIL_CLOSED, EMAIL_UNREADABLE. */
export async function postUnwritten(tx: Tx, posted: Posted[], clock: Clock): Promise<void> {
  const made = posted.map((each) => rowOf(each, clock));
  if (made.length > 0)
    await insertUrgentMails(
      tx,
      made.map(({ mail, row }) => ({ ...row, message: unwrittenMail(mail) })),
    );
}

function rowOf(posted: Posted, clock: Clock): { mail: Letter; row: Omit<OutboxRow, 'message'> } {
  const { organisationId, userId, kind, holdsMs, to, from, replyTo, letter, attachments } = posted;
  const sender = settings().MAIL_FROM;
  if (!mailIsOpen() || !sender) throw new Refusal({ code: 'MAIL_CLOSED' });
  const [id, now] = [posted.id ?? randomUUID(), clock.now()];
  const mail = {
    ...{ id: messageIdOf(id, sender), date: new Date(now), to, subject: letter.subject, text: letter.text },
    from: { name: from?.name ?? 'Heathland', address: sender },
    ...(letter.html ? { html: letter.html } : {}),
    ...(replyTo ? { replyTo } : {}),
    ...(attachments ? { attachments } : {}),
  };
  const row = { id, organisation_id: organisationId, user_id: userId, kind, sender, recipient: to.address };
  return { mail, row: { ...row, created_at: new Date(now), until: new Date(now + holdsMs) } };
}
