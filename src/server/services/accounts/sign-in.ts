import { createHash, randomBytes } from 'node:crypto';
import { deviceOf, networkOf } from '@/core/access';
import { Refusal } from '@/core/errors';
import { ACCOUNT, LETTERS } from '@/core/words';
import {
  deleteSession,
  keepDevice,
  knowsDevice,
  member,
  provisionalByEmail,
  userByEmail,
  wasSignedIn,
  type UserRow,
} from '@/server/db/accounts/accounts';
import { inTenant, outsideTenants } from '@/server/db/pool';
import type { Clock } from '@/server/clock';
import { recordAudit } from './audit';
import { countOf, limitRate } from './limit-rate';
import { notify } from './letters';
import { isPassword } from './passwords';
import { isMailedCode, spendCode } from './mailed-code';
import { refuseWithoutCode } from './second-factor';
import { actorOf, beginSession, hashOf } from './sessions';

/** Beyond the rate of guesses at an account each waits so long, and so many at a time in a process; others are told to try again. */
const SLOW_MS = 3_000;
const SLOW_AT_ONCE = 4;
const slowed = new Map<string, number>();

export type SignIn = {
  email: string;
  password: string;
  /** A code that was sent by mail, in the place of the password. */
  mailed?: string;
  /** Of the authenticator app, or a recovery code; empty where none is asked for yet. */
  code?: string;
  /** The client's address and user agent; only keyed hashes and the kind of device are kept of them. */
  from: string;
  userAgent?: string;
  /** The token of this browser by which it is known again, and that of a session that it still has. */
  device?: string;
  session?: string;
};

/**
 * Signs in and answers with a session's token, a new one each time, and the browser's own. Guesses are counted by network and account,
 * and over all networks by account alone, except of browsers that were signed in with before: guessing elsewhere slows nobody down there.
 * Errors: SIGN_IN_FAILED (the same for an unknown address), SECOND_FACTOR_NEEDED, SECOND_FACTOR_WRONG, TOO_MANY_REQUESTS, TOO_BUSY.
 */
export async function signIn(input: SignIn, clock: Clock): Promise<{ token: string; device: string }> {
  const email = input.email.trim().toLowerCase().slice(0, 254);
  const network = networkOf(input.from);
  const holder = await outsideTenants((db) => userByEmail(db, email));
  const device = /^[\w-]{43}$/.test(input.device ?? '') ? input.device! : null;
  const known =
    holder && device
      ? await inTenant(holder.organisation_id, (tx) => knowsDevice(tx, holder.id, hashOf(device)))
      : false;
  try {
    await limitRate('sign-in', network, clock);
    // Counted before the password is looked at, so that many at once get no further than one after the other.
    await limitRate('sign-in to an account', `${email} ${known ? `on ${device}` : `from ${network}`}`, clock);
    if (!known) await slowDown(email, clock);
  } catch (error) {
    await tell(holder, email, 'session.throttled', clock);
    throw error;
  }
  const { mailed } = input;
  const user =
    mailed === undefined
      ? await whose(holder, email, input.password)
      : (await isMailedCode(holder, mailed, clock))
        ? holder!
        : null;
  if (!user) {
    await tell(holder, email, 'session.failed', clock);
    throw new Refusal({ code: 'SIGN_IN_FAILED' });
  }
  await refuseWithoutCode(user, input.code ?? '', clock);
  // It works once, also of two who use it at the same moment.
  if (mailed !== undefined && !(await spendCode(user))) throw new Refusal({ code: 'SIGN_IN_FAILED' });
  // Whoever signs in once more where they still are is on no new device.
  const here = (await actorOf(input.session, clock))?.userId === user.id;
  const kept = device ?? randomBytes(32).toString('base64url');
  await inTenant(user.organisation_id, async (tx) => {
    if (!known && !here && (await wasSignedIn(tx, user.id)))
      await notify(
        tx,
        user,
        ({ name, when, forgotten }) =>
          LETTERS.newDevice(name, ACCOUNT.device[deviceOf(input.userAgent ?? '')]!.toLowerCase(), when, forgotten),
        clock,
      );
    await keepDevice(tx, {
      organisation_id: user.organisation_id,
      user_id: user.id,
      device_hash: hashOf(kept),
      last_at: new Date(clock.now()),
    });
    const who = { organisationId: user.organisation_id, userId: user.id };
    await recordAudit(tx, who, 'session.begun', { kind: 'member', id: user.id }, clock);
  });
  // What this browser was signed in with before ends.
  if (input.session) await outsideTenants((db) => deleteSession(db, hashOf(input.session!)));
  return { token: await beginSession(user, deviceOf(input.userAgent ?? ''), clock), device: kept };
}

/** Keeps the browser of a session that somebody began by signing up; answers with the token by which it is known again. */
export async function rememberBrowser(session: string, clock: Clock): Promise<string> {
  const actor = (await actorOf(session, clock))!;
  const token = randomBytes(32).toString('base64url');
  const row = { organisation_id: actor.organisationId, user_id: actor.userId, device_hash: hashOf(token) };
  await inTenant(actor, (tx) => keepDevice(tx, { ...row, last_at: new Date(clock.now()) }));
  return token;
}

/**
 * The account that an address and a password open: the one that has the address, or the latest provisional one. Two passwords are looked at
 * wherever the first is wrong, so that the time tells of neither.
 */
async function whose(holder: UserRow | undefined, email: string, password: string): Promise<UserRow | null> {
  if ((await isPassword(holder?.password_hash ?? null, password)) && holder) return holder;
  const other = await outsideTenants((db) => provisionalByEmail(db, email));
  const row = other ? await inTenant(other.organisation_id, (tx) => member(tx, other.id)) : undefined;
  return (await isPassword(row?.password_hash ?? null, password)) && row ? row : null;
}

/** Lets a guess at an account wait where there were many, a few at a time. Error: TOO_BUSY. */
async function slowDown(email: string, clock: Clock): Promise<void> {
  if (!(await countOf('guess', email, clock)).beyond) return;
  const key = createHash('sha256').update(email).digest('hex');
  const others = slowed.get(key) ?? 0;
  if (others >= SLOW_AT_ONCE) throw new Refusal({ code: 'TOO_BUSY', seconds: 5 });
  slowed.set(key, others + 1);
  try {
    await new Promise((resolve) => setTimeout(resolve, SLOW_MS));
  } finally {
    const left = slowed.get(key)! - 1;
    if (left > 0) slowed.set(key, left);
    else slowed.delete(key);
  }
}

/**
 * Tells the audit trail of an attempt that failed: the first of an hour of each kind, and each tenth power. Of an unknown address it is
 * counted all the same, so that it takes as long.
 */
async function tell(
  user: UserRow | undefined,
  email: string,
  act: 'session.failed' | 'session.throttled',
  clock: Clock,
): Promise<void> {
  const { count } = await countOf('sign-in told', `${act} ${email}`, clock);
  if (!user || !Number.isInteger(Math.log10(count))) return;
  const who = { organisationId: user.organisation_id, userId: user.id };
  await inTenant(user.organisation_id, (tx) =>
    recordAudit(tx, who, act, { kind: 'member', id: user.id }, clock, { count }),
  );
}
