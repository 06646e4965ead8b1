import { hash, verify } from '@node-rs/argon2';
import { checkPassword } from '@/core/access';
import { orRefuse, Refusal } from '@/core/errors';
import { compute } from '@/server/compute';

/** OWASP Password Storage Cheat Sheet: argon2id with 19 MiB, two passes, one lane. */
const ARGON2ID = { algorithm: 2, memoryCost: 19_456, timeCost: 2, parallelism: 1 } as const;

/** Hashes at a time in a process, and how many may wait: reading of files shares its threads with them. */
const AT_ONCE = 2;
const MOST_WAITING = 100;

let running = 0;
const waiting: (() => void)[] = [];

async function inTurn<T>(work: () => Promise<T>): Promise<T> {
  if (running >= AT_ONCE) {
    if (waiting.length >= MOST_WAITING) throw new Refusal({ code: 'TOO_BUSY', seconds: 5 });
    await new Promise<void>((resolve) => waiting.push(resolve));
  }
  running += 1;
  try {
    return await work();
  } finally {
    running -= 1;
    waiting.shift()?.();
  }
}

let decoy: Promise<string> | undefined;

/** Whether a password is that of a hash; an unknown account (null) costs the same time, so that nobody learns who has one. */
export async function isPassword(known: string | null, password: string): Promise<boolean> {
  decoy ??= hash('a password that nobody has', ARGON2ID);
  const against = known ?? (await decoy);
  const matches = await inTurn(() => verify(against, password.slice(0, 1_000)).catch(() => false));
  return matches && known !== null;
}

/** The hash of a password that was looked at already, or that chance has made. */
export const hashOf = (password: string): Promise<string> => hash(password, ARGON2ID);

/** Whom a new password is for: its words must not be theirs. */
export type PasswordOwner = { name: string; email: string; organisation: string };

/** The hash of a new password. Errors: PASSWORD_SHORT, PASSWORD_LONG, PASSWORD_WEAK with why. */
export async function hashPassword(password: string, { name, email, organisation }: PasswordOwner): Promise<string> {
  orRefuse(checkPassword(password));
  const own = [name, email, organisation].map((text) => text.slice(0, 200));
  const why = await compute('password', { password, own }, { of: 'passwords' });
  if (why) throw new Refusal({ code: 'PASSWORD_WEAK', why });
  return inTurn(() => hashOf(password));
}
