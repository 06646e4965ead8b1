import { hash, verify } from '@node-rs/argon2';
import { createHmac } from 'node:crypto';
import { ATTEMPTS } from '@/core/access';
import { Refusal } from '@/core/errors';
import { attemptsSince, forgetEnded, insertAttempts, userByEmail } from '@/server/db/accounts';
import { outsideTenants } from '@/server/db/pool';
import type { Clock } from '@/server/clock';
import { settings } from '@/server/env';
import { beginSession } from './sessions';

/** OWASP Password Storage Cheat Sheet: argon2id with 19 MiB, two passes, one lane. */
export const ARGON2ID = { algorithm: 2, memoryCost: 19_456, timeCost: 2, parallelism: 1 } as const;

let decoy: Promise<string> | undefined;

/**
 * Signs in and answers with a session's token. `from` is the client's address; only a keyed hash of it is kept, and only
 * for the window of attempts. Errors: SIGN_IN_FAILED (the same for an unknown address), TOO_MANY_ATTEMPTS.
 */
export async function signIn(input: { email: string; password: string; from: string }, clock: Clock): Promise<string> {
  const email = input.email.trim().toLowerCase().slice(0, 254);
  const account = keyOf(`account ${email} from ${input.from}`);
  const address = keyOf(`address ${input.from}`);
  const now = clock.now();
  const since = new Date(now - ATTEMPTS.windowMinutes * 60_000);
  const user = await outsideTenants(async (db) => {
    await forgetEnded(db, since, new Date(now));
    const [ofAccount, ofAddress] = await Promise.all([
      attemptsSince(db, account, since),
      attemptsSince(db, address, since),
    ]);
    if (ofAccount >= ATTEMPTS.accountFromAddress || ofAddress >= ATTEMPTS.address) {
      throw new Refusal({ code: 'TOO_MANY_ATTEMPTS', minutes: ATTEMPTS.windowMinutes });
    }
    await insertAttempts(db, [account, address], new Date(now));
    return userByEmail(db, email);
  });
  // An unknown address costs the same time as a wrong password, so that nobody learns who has an account.
  decoy ??= hash('a password that nobody has', ARGON2ID);
  const matches = await verify(user?.password_hash ?? (await decoy), input.password.slice(0, 1_000));
  if (!user || !matches) throw new Refusal({ code: 'SIGN_IN_FAILED' });
  return beginSession(user.id, clock);
}

const keyOf = (text: string) => createHmac('sha256', settings().SESSION_SECRET).update(text).digest();
