import { orRefuse, Refusal } from '@/core/errors';
import { readEmail } from '@/core/record';
import { LETTERS } from '@/core/words';
import type { Clock } from '@/server/clock';
import { dropLinks } from '@/server/db/accounts/account-links';
import {
  deleteSessionsOf,
  member,
  memberForUpdate,
  organisation,
  updateMember,
  userByEmail,
} from '@/server/db/accounts/accounts';
import { inTenant, outsideTenants } from '@/server/db/pool';
import { mailIsOpen } from '@/server/services/mail/post-mail';
import { recordAudit } from './audit';
import { linkFor, mayWriteTo, notify, openLink, writeTo } from './letters';
import { hashPassword } from './passwords';

/** Every asker waits so long, in milliseconds, so that the time of the answer does not tell who has an account. */
const ANSWERED_AFTER_MS = 400;

/**
 * Sends whoever has confirmed this address a link by which they choose a new password. The answer is the same for every address.
 * Errors: MAIL_CLOSED, EMAIL_UNREADABLE.
 */
export async function askNewPassword(email: string, clock: Clock): Promise<void> {
  if (!mailIsOpen()) throw new Refusal({ code: 'MAIL_CLOSED' });
  const address = orRefuse(readEmail(email)).toLowerCase();
  const answered = new Promise((resolve) => setTimeout(resolve, ANSWERED_AFTER_MS));
  await sendLink(address, clock);
  await answered;
}

async function sendLink(email: string, clock: Clock): Promise<void> {
  const user = await outsideTenants((db) => userByEmail(db, email));
  if (!(await mayWriteTo(email, clock, 'way back in')) || !user?.email_confirmed_at) return;
  await inTenant(user.organisation_id, async (tx) => {
    const link = await linkFor(tx, user, 'password', email, clock);
    await writeTo(tx, user, { name: user.name, address: email }, LETTERS.password(user.name, link), 'password', clock);
    const who = { organisationId: user.organisation_id, userId: user.id };
    await recordAudit(tx, who, 'password.asked', { kind: 'member', id: user.id }, clock);
  });
}

/** Whether a link to choose a new password still holds. Error: LINK_ENDED. */
export const readNewPassword = async (token: string, clock: Clock): Promise<void> =>
  void (await openLink(token, ['password'], clock));

/**
 * Takes a new password for the account of a link, once, and ends all its sessions; a second factor is still asked for when they sign in.
 * Errors: LINK_ENDED, PASSWORD_SHORT, PASSWORD_LONG, PASSWORD_WEAK.
 */
export async function chooseNewPassword(token: string, password: string, clock: Clock): Promise<void> {
  const link = await openLink(token, ['password'], clock);
  const [user, own] = await inTenant(link.organisation_id, async (tx) => [
    await member(tx, link.user_id),
    await organisation(tx, link.organisation_id),
  ]);
  if (!user || user.email !== link.email) throw new Refusal({ code: 'LINK_ENDED' });
  const password_hash = await hashPassword(password, { ...user, organisation: own?.name ?? '' });
  await inTenant(link.organisation_id, async (tx) => {
    const row = await memberForUpdate(tx, link.organisation_id, link.user_id);
    // Who else held a link to move the account away may have been the reason for this.
    const held = (await dropLinks(tx, link.user_id, ['password'])) === 1;
    if (!row || !held) throw new Refusal({ code: 'LINK_ENDED' });
    await dropLinks(tx, row.id, ['move-from', 'move-to']);
    await updateMember(tx, row.organisation_id, row.id, { password_hash, must_change_password: false });
    await deleteSessionsOf(tx, row.id, null);
    const who = { organisationId: row.organisation_id, userId: row.id };
    await recordAudit(tx, who, 'password.replaced', { kind: 'member', id: row.id }, clock);
    await notify(tx, row, ({ name, when, forgotten }) => LETTERS.passwordChanged(name, when, forgotten), clock);
  });
}
