import { createHmac, randomInt, timingSafeEqual } from 'node:crypto';
import { orRefuse, Refusal } from '@/core/errors';
import { writeLetter } from '@/core/letter';
import { readEmail } from '@/core/record';
import { codeLetter } from '@/core/words';
import type { Clock } from '@/server/clock';
import { userByEmail, type UserRow } from '@/server/db/accounts/accounts';
import { dropCode, keepCode, tryCode } from '@/server/db/accounts/invitations';
import { inTenant, outsideTenants } from '@/server/db/pool';
import { settings } from '@/server/env';
import { mailIsOpen, postMail } from '@/server/services/mail/post-mail';
import { recordAudit } from './audit';
import { countOf } from './limit-rate';

/** So long a code holds, and so often it may be tried. */
const HOLDS_MS = 10 * 60_000;
const MOST_TRIES = 6;
/** Every asker waits so long, so that the time of the answer does not tell who has an account. */
const ANSWERED_AFTER_MS = 400;

/** Keyed by the installation’s secret: whoever reads the database cannot try a million codes against it. */
const hashOf = (userId: string, code: string): Buffer =>
  createHmac('sha256', settings().SESSION_SECRET).update(`mailed code ${userId} ${code}`).digest();

/**
 * Sends whoever has confirmed this address a code to sign in by, in the place of their password. The answer is the same for every address.
 * Errors: MAIL_CLOSED, EMAIL_UNREADABLE.
 */
export async function askForCode(email: string, clock: Clock): Promise<void> {
  if (!mailIsOpen()) throw new Refusal({ code: 'MAIL_CLOSED' });
  const address = orRefuse(readEmail(email)).toLowerCase();
  const answered = new Promise((resolve) => setTimeout(resolve, ANSWERED_AFTER_MS));
  await sendCode(address, clock);
  await answered;
}

async function sendCode(email: string, clock: Clock): Promise<void> {
  const user = await outsideTenants((db) => userByEmail(db, email));
  const { beyond } = await countOf('sign-in code', email, clock);
  if (beyond || !user?.email_confirmed_at) return;
  const code = String(randomInt(1_000_000)).padStart(6, '0');
  const own = { organisation_id: user.organisation_id, user_id: user.id };
  await inTenant(user.organisation_id, async (tx) => {
    await keepCode(tx, { ...own, code_hash: hashOf(user.id, code), expires_at: new Date(clock.now() + HOLDS_MS) });
    await postMail(
      tx,
      {
        ...{ organisationId: user.organisation_id, userId: user.id, kind: 'sign-in code', urgent: true },
        ...{
          holdsMs: HOLDS_MS,
          to: { name: user.name, address: email },
          letter: writeLetter(codeLetter(user.name, code)),
        },
      },
      clock,
    );
    const who = { organisationId: user.organisation_id, userId: user.id };
    await recordAudit(tx, who, 'code.asked', { kind: 'member', id: user.id }, clock);
  });
}

/** Whether a code is the one that was sent to somebody and still holds. Each look counts, and takes as long of an account that is not there. */
export async function isMailedCode(user: UserRow | undefined, code: string, clock: Clock): Promise<boolean> {
  const answered = new Promise((resolve) => setTimeout(resolve, ANSWERED_AFTER_MS));
  const is = await looksRight(user, code, clock);
  await answered;
  return is;
}

async function looksRight(user: UserRow | undefined, code: string, clock: Clock): Promise<boolean> {
  if (!user || !/^\d{6}$/.test(code)) return false;
  const kept = await inTenant(user.organisation_id, (tx) => tryCode(tx, user.id, new Date(clock.now()), MOST_TRIES));
  return kept !== null && timingSafeEqual(kept, hashOf(user.id, code));
}

/** Ends a code that somebody has signed in by; false where somebody else was faster with it. */
export const spendCode = (user: UserRow): Promise<boolean> =>
  inTenant(user.organisation_id, (tx) => dropCode(tx, user.id));
