import { hash, verify } from '@node-rs/argon2';
import { Refusal } from '@/core/errors';
import { userByEmail } from '@/server/db/accounts';
import { inTenant, outsideTenants } from '@/server/db/pool';
import type { Clock } from '@/server/clock';
import { writeDown } from './audit';
import { forgiveRate, limitRate } from './limit-rate';
import { beginSession } from './sessions';

/** OWASP Password Storage Cheat Sheet: argon2id with 19 MiB, two passes, one lane. */
export const ARGON2ID = { algorithm: 2, memoryCost: 19_456, timeCost: 2, parallelism: 1 } as const;

let decoy: Promise<string> | undefined;

/**
 * Signs in and answers with a session's token. `from` is the client's address; only a keyed hash of it is kept, and only
 * for the window of attempts. Errors: SIGN_IN_FAILED (the same for an unknown address), TOO_MANY_REQUESTS.
 */
export async function signIn(input: { email: string; password: string; from: string }, clock: Clock): Promise<string> {
  const email = input.email.trim().toLowerCase().slice(0, 254);
  const attempt = `${email} from ${input.from}`;
  await limitRate('sign-in', input.from, clock);
  // Counted before the password is looked at, so that many at once get no further than one after the other.
  await limitRate('sign-in to an account', attempt, clock);
  const user = await outsideTenants((db) => userByEmail(db, email));
  // An unknown address costs the same time as a wrong password, so that nobody learns who has an account.
  decoy ??= hash('a password that nobody has', ARGON2ID);
  const matches = await verify(user?.password_hash ?? (await decoy), input.password.slice(0, 1_000)).catch(() => false);
  if (!user || !matches) throw new Refusal({ code: 'SIGN_IN_FAILED' });
  await forgiveRate('sign-in to an account', attempt);
  const who = { organisationId: user.organisation_id, userId: user.id };
  await inTenant(user.organisation_id, (tx) =>
    writeDown(tx, who, 'session.begun', { kind: 'member', id: user.id }, clock),
  );
  return beginSession(user, clock);
}
