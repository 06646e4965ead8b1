import { createHash, randomBytes } from 'node:crypto';
import { deleteSession, insertSession, member, organisation, userBySession, type UserRow } from '@/server/db/accounts';
import { inTenant, outsideTenants } from '@/server/db/pool';
import type { Clock } from '@/server/clock';
import type { Actor } from './actor';

/** Two weeks: long enough for a fair and the week after it, short enough for a phone left in a drawer. */
export const SESSION_DAYS = 14;

/** Only the hash of a session's token is kept: who reads the database cannot sign in with what they find. */
export const hashOf = (token: string) => createHash('sha256').update(token).digest();

/** Begins a session and answers with its token, which is shown this once. */
export async function beginSession(
  { id, organisation_id }: Pick<UserRow, 'id' | 'organisation_id'>,
  clock: Clock,
): Promise<string> {
  const token = randomBytes(32).toString('base64url');
  const expires = new Date(clock.now() + SESSION_DAYS * 86_400_000);
  await inTenant(organisation_id, (tx) =>
    insertSession(tx, { token_hash: hashOf(token), user_id: id, organisation_id, expires_at: expires }),
  );
  return token;
}

/** Who holds this token; null when nobody does or the session has ended. */
export async function actorOf(token: string | undefined, clock: Clock): Promise<Actor | null> {
  if (!token || token.length > 100) return null;
  const user = await outsideTenants((db) => userBySession(db, hashOf(token), new Date(clock.now())));
  if (!user) return null;
  return actorFrom(user);
}

/** Somebody as they are today, for work that goes on without them; null when they have left. */
export async function actorOfUser(userId: string, organisationId: string): Promise<Actor | null> {
  const user = await inTenant(organisationId, (tx) => member(tx, userId));
  return user ? actorFrom(user) : null;
}

async function actorFrom(user: UserRow): Promise<Actor | null> {
  const own = await inTenant(user.organisation_id, (tx) => organisation(tx, user.organisation_id));
  if (!own) return null;
  return {
    userId: user.id,
    name: user.name,
    role: user.role,
    ownRecord: user.own_record,
    mustChangePassword: user.must_change_password,
    organisationId: user.organisation_id,
    organisation: { name: own.name, country: own.country, timeZone: own.time_zone },
  };
}

export const endSession = (token: string): Promise<unknown> => outsideTenants((db) => deleteSession(db, hashOf(token)));
