import { orRefuse, Refusal } from '@/core/errors';
import { readEmail } from '@/core/record';
import { LETTERS } from '@/core/words';
import type { Clock } from '@/server/clock';
import { agreeToLink, dropLinks, linksOf } from '@/server/db/accounts/account-links';
import { memberForUpdate, updateMember, userByEmail, type UserRow } from '@/server/db/accounts/accounts';
import { violatedUnique } from '@/server/db/jobs/failures';
import { inTenant, outsideTenants, type Tx } from '@/server/db/pool';
import { mailIsOpen } from '@/server/services/mail/post-mail';
import type { Actor } from './actor';
import { recordAudit } from './audit';
import { authorise } from './authorise';
import { refuseStale } from './fresh';
import { askToConfirm, LETTER_SECONDS, linkFor, mayWriteTo, openLink, studioPlace, writeTo } from './letters';

const MOVE = ['move-from', 'move-to'] as const;
const who = (row: Pick<UserRow, 'id' | 'organisation_id'>) => ({ organisationId: row.organisation_id, userId: row.id });
const member = (id: string) => ({ kind: 'member' as const, id });

/** Whether the present address is another account's, as far as that can be told from outside a tenant. */
const isTaken = async (email: string, userId: string): Promise<boolean> => {
  const other = await outsideTenants((db) => userByEmail(db, email));
  return other !== undefined && other.id !== userId;
};

/**
 * Sends the letter once more by which a member confirms their address. It is the same to them whether another account has that address.
 * Errors: MAIL_CLOSED, TOO_MANY_REQUESTS.
 */
export async function askAgain(actor: Actor, clock: Clock): Promise<void> {
  authorise(actor, 'session.manage');
  if (!mailIsOpen()) throw new Refusal({ code: 'MAIL_CLOSED' });
  if (actor.emailConfirmed) return;
  if (!(await mayWriteTo(actor.email, clock)))
    throw new Refusal({ code: 'TOO_MANY_REQUESTS', seconds: LETTER_SECONDS });
  const taken = await isTaken(actor.email, actor.userId);
  await inTenant(actor, async (tx) => {
    const row = await memberForUpdate(tx, actor.organisationId, actor.userId);
    if (!row) throw new Refusal({ code: 'SIGNED_OUT' });
    // Whoever had the address before may be gone.
    if (row.provisional && !taken) await updateMember(tx, actor.organisationId, row.id, { provisional: false });
    await askToConfirm(tx, { ...row, provisional: taken }, clock);
  });
}

/** What a link to confirm an address is about. Error: LINK_ENDED. */
export const readConfirmation = async (token: string, clock: Clock): Promise<{ email: string }> => ({
  email: (await openLink(token, ['confirm'], clock)).email,
});

/** Confirms the address that a letter with this link was sent to. Error: LINK_ENDED. */
export async function confirmAddress(token: string, clock: Clock): Promise<void> {
  const link = await openLink(token, ['confirm'], clock);
  await inTenant(link.organisation_id, async (tx) => {
    const row = await memberForUpdate(tx, link.organisation_id, link.user_id);
    const held = (await dropLinks(tx, link.user_id, ['confirm'])) === 1;
    if (!held || !row || row.email !== link.email || row.provisional) throw new Refusal({ code: 'LINK_ENDED' });
    await updateMember(tx, link.organisation_id, row.id, { email_confirmed_at: new Date(clock.now()) });
    await recordAudit(tx, who(row), 'email.confirmed', member(row.id), clock);
  });
}

/**
 * Asks both addresses of an account whether it may move from one to the other; one that was never confirmed is not asked. An address that is another account's
 * is told so, and nobody else. Errors: MAIL_CLOSED, PASSWORD_STALE, EMAIL_UNREADABLE, TOO_MANY_REQUESTS.
 */
export async function askToMove(actor: Actor, wanted: string, clock: Clock): Promise<void> {
  authorise(actor, 'password.change');
  refuseStale(actor, clock);
  if (!mailIsOpen()) throw new Refusal({ code: 'MAIL_CLOSED' });
  const email = orRefuse(readEmail(wanted)).toLowerCase();
  if (email === actor.email) throw new Refusal({ code: 'INPUT', field: 'email' });
  if (!(await mayWriteTo(email, clock))) throw new Refusal({ code: 'TOO_MANY_REQUESTS', seconds: LETTER_SECONDS });
  const taken = await isTaken(email, actor.userId);
  await inTenant(actor, async (tx) => {
    const row = await memberForUpdate(tx, actor.organisationId, actor.userId);
    if (!row) throw new Refusal({ code: 'SIGNED_OUT' });
    await dropLinks(tx, row.id, [...MOVE]);
    const to = { name: '', address: email };
    // A link is kept either way, so that both ends are asked alike; of an address that is taken nobody has it.
    const link = await linkFor(tx, row, 'move-to', email, clock);
    if (taken) await writeTo(tx, row, to, LETTERS.taken(studioPlace('sign-in')), null, clock);
    else await writeTo(tx, row, to, LETTERS.moveTo(link), 'move-to', clock);
    if (row.email_confirmed_at) {
      const from = await linkFor(tx, row, 'move-from', email, clock);
      const present = { name: row.name, address: row.email };
      await writeTo(tx, row, present, LETTERS.moveFrom(row.name, email, from), 'move-from', clock);
    }
    await recordAudit(tx, who(row), 'email.move-asked', member(row.id), clock);
  });
}

/** Where an account would move by a link, and whether this end has agreed. Error: LINK_ENDED. */
export async function readMove(token: string, clock: Clock): Promise<{ email: string; agreed: boolean }> {
  const { email, agreed_at } = await openLink(token, MOVE, clock);
  return { email, agreed: agreed_at !== null };
}

/** One end agrees to a move or stops it; once all have agreed the account has moved. Errors: LINK_ENDED. */
export async function answerMove(
  token: string,
  agrees: boolean,
  clock: Clock,
): Promise<{ state: 'stopped' | 'waits' | 'moved' }> {
  const link = await openLink(token, MOVE, clock);
  const now = new Date(clock.now());
  try {
    return await inTenant(link.organisation_id, async (tx) => {
      const row = await memberForUpdate(tx, link.organisation_id, link.user_id);
      const ends = (await linksOf(tx, link.user_id, now)).filter(
        ({ purpose, email }) => isMove(purpose) && email === link.email,
      );
      if (!row || !ends.some(({ purpose }) => purpose === link.purpose)) throw new Refusal({ code: 'LINK_ENDED' });
      if (!agrees) {
        await dropLinks(tx, row.id, [...MOVE]);
        await recordAudit(tx, who(row), 'email.move-stopped', member(row.id), clock);
        return { state: 'stopped' };
      }
      await agreeToLink(tx, row.id, link.purpose, now);
      const open = ends.filter(({ purpose, agreed_at }) => purpose !== link.purpose && agreed_at === null);
      if (open.length > 0 || !ends.some(({ purpose }) => purpose === 'move-to')) return { state: 'waits' };
      await move(tx, row, link.email, clock);
      return { state: 'moved' };
    });
  } catch (error) {
    // Somebody made an account with it meanwhile: who has one is told to nobody.
    throw violatedUnique(error)?.startsWith('users_email') ? new Refusal({ code: 'LINK_ENDED' }) : error;
  }
}

const isMove = (purpose: string): boolean => (MOVE as readonly string[]).includes(purpose);

async function move(tx: Tx, row: UserRow, email: string, clock: Clock): Promise<void> {
  const now = new Date(clock.now());
  await updateMember(tx, row.organisation_id, row.id, { email, email_confirmed_at: now, provisional: false });
  // Links to the old address let nobody in any more.
  await dropLinks(tx, row.id, [...MOVE, 'confirm', 'password']);
  await recordAudit(tx, who(row), 'email.moved', member(row.id), clock);
  if (!row.email_confirmed_at) return;
  await writeTo(tx, row, { name: row.name, address: row.email }, LETTERS.moved(row.name, email), null, clock);
}
