import { randomUUID } from 'node:crypto';
import { settings } from '@/server/env';
import { smtpDoor, type MailDoor } from './smtp';

export { unwrittenMail, writeMail, writtenMail, type Correspondent, type Letter } from './letter';
export { smtpDoor, type MailDoor } from './smtp';
export { keptMails, latestHeads, readKept, startTray, type KeptMail } from './tray';

/** The door that the settings name; null where no mail leaves this installation. */
export function mailDoor(): MailDoor | null {
  const { MAIL_SERVER } = settings();
  return MAIL_SERVER ? smtpDoor(MAIL_SERVER) : null;
}

/** The Message-ID of a mail that has an id, under the host of whoever sends (RFC 5322, 3.6.4). */
export const messageIdOf = (id: string, from: string): string => `${id}@${from.split('@').at(-1)}`;

/** A Message-ID that no other mail has. */
export const freshMessageId = (from: string): string => messageIdOf(randomUUID(), from);
