import { createHash, randomBytes } from 'node:crypto';
import { reachOf, type Device } from '@/core/access';
import { Refusal } from '@/core/errors';
import {
  countMembers,
  deleteOwnSession,
  deleteSession,
  deleteSessionsOf,
  insertSession,
  member,
  organisation,
  sessionsOf,
  holderOfSession,
  type OrganisationRow,
  type UserRow,
} from '@/server/db/accounts/accounts';
import { inTenant, outsideTenants } from '@/server/db/pool';
import { ledRecords } from '@/server/db/roster/teams';
import type { Clock } from '@/server/clock';
import type { Actor } from './actor';
import { recordAudit } from './audit';
import { authorise } from './authorise';
import { defaultsOf } from '@/server/services/organisation/company-defaults';

/** Two weeks: long enough for a fair and the week after it, short enough for a phone left in a drawer. */
export const SESSION_DAYS = 14;
/** A session that nobody uses for so long ends: over a weekend it stays. */
export const IDLE_DAYS = 3;

/** The id of no session: of work that goes on without anybody in front of it. */
const NO_SESSION = '00000000-0000-0000-0000-000000000000';

/** Only the hash of a session's token is kept: who reads the database cannot sign in with what they find. */
export const hashOf = (token: string) => createHash('sha256').update(token).digest();

/** Begins a session and answers with its token, which is shown this once. The password was typed just now. */
export async function beginSession(
  { id, organisation_id }: Pick<UserRow, 'id' | 'organisation_id'>,
  device: Device,
  clock: Clock,
): Promise<string> {
  const token = randomBytes(32).toString('base64url');
  const now = new Date(clock.now());
  await inTenant(organisation_id, (tx) =>
    insertSession(tx, {
      token_hash: hashOf(token),
      user_id: id,
      organisation_id,
      device,
      created_at: now,
      seen_at: now,
      confirmed_at: now,
      expires_at: new Date(clock.now() + SESSION_DAYS * 86_400_000),
    }),
  );
  return token;
}

/** Who holds this token; null when nobody does, or the session has ended or stood unused for too long. */
export async function actorOf(token: string | undefined, clock: Clock): Promise<Actor | null> {
  if (!token || token.length > 100) return null;
  const user = await outsideTenants((db) => holderOfSession(db, hashOf(token), new Date(clock.now()), IDLE_DAYS));
  if (!user) return null;
  const own = {
    name: user.own_name,
    country: user.own_country,
    time_zone: user.own_time_zone,
    second_factor: user.own_second_factor,
    deleted_at: user.own_deleted_at,
    defaults: user.own_defaults,
  };
  const team = leads(user) ? await inTenant(user.organisation_id, (tx) => ledRecords(tx, user.id)) : [];
  return actorFrom(user, own, user.alone, { id: user.session_id, confirmed: user.confirmed_at.getTime() }, team);
}

/** Somebody as they are today, for work that goes on without them; null when they have left. */
export async function actorOfUser(userId: string, organisationId: string): Promise<Actor | null> {
  return inTenant(organisationId, async (tx) => {
    const user = await member(tx, userId);
    const own = await organisation(tx, organisationId);
    // Nobody sits in front of it: what needs a fresh password is no work of jobs.
    if (!user || !own) return null;
    const team = leads(user) ? await ledRecords(tx, userId) : [];
    return actorFrom(user, own, (await countMembers(tx)) <= 1, { id: NO_SESSION, confirmed: 0 }, team);
  });
}

/** Whose role reaches the people of teams. */
const leads = ({ role }: UserRow): boolean => reachOf(role, 'record.read') === 'team';

type Own = Pick<OrganisationRow, 'name' | 'country' | 'time_zone' | 'second_factor' | 'deleted_at' | 'defaults'>;

function actorFrom(
  user: UserRow,
  own: Own,
  alone: boolean,
  session: { id: string; confirmed: number },
  team: string[],
): Actor {
  return {
    userId: user.id,
    name: user.name,
    email: user.email,
    emailConfirmed: user.email_confirmed_at !== null,
    role: user.role,
    ownRecord: user.own_record,
    team: new Set(team),
    mustChangePassword: user.must_change_password,
    secondFactor: user.totp_since !== null,
    mustSetUpSecondFactor: own.second_factor && user.totp_since === null && session.id !== NO_SESSION,
    sessionId: session.id,
    confirmedAt: session.confirmed,
    organisationId: user.organisation_id,
    organisation: { name: own.name, country: own.country, timeZone: own.time_zone, defaults: defaultsOf(own) },
    alone,
    ...(own.deleted_at ? { deletedAt: own.deleted_at.getTime() } : {}),
  };
}

export const endSession = (token: string): Promise<unknown> => outsideTenants((db) => deleteSession(db, hashOf(token)));

export type ShownSession = { id: string; device: string; begun: string; seen: string; isThis: boolean };

/** A member's own sessions, the latest used first. */
export async function listSessions(actor: Actor, clock: Clock): Promise<ShownSession[]> {
  authorise(actor, 'session.manage');
  const rows = await inTenant(actor, (tx) =>
    sessionsOf(tx, actor.userId, new Date(clock.now()), new Date(clock.now() - IDLE_DAYS * 86_400_000)),
  );
  return rows.map(({ id, device, created_at, seen_at }) => ({
    id,
    device,
    begun: created_at.toISOString(),
    seen: seen_at.toISOString(),
    isThis: id === actor.sessionId,
  }));
}

/** Ends one of a member's own sessions. Error: NOT_FOUND. */
export async function endOwnSession(actor: Actor, id: string, clock: Clock): Promise<void> {
  authorise(actor, 'session.manage');
  await inTenant(actor, async (tx) => {
    if ((await deleteOwnSession(tx, actor.userId, id)) === 0) throw new Refusal({ code: 'NOT_FOUND' });
    await recordAudit(tx, actor, 'session.ended', { kind: 'member', id: actor.userId }, clock, { count: 1 });
  });
}

/** Ends all of a member's sessions but this one. */
export async function endOtherSessions(actor: Actor, clock: Clock): Promise<{ ended: number }> {
  authorise(actor, 'session.manage');
  return inTenant(actor, async (tx) => {
    const ended = await deleteSessionsOf(tx, actor.userId, { except: actor.sessionId });
    await recordAudit(tx, actor, 'session.ended', { kind: 'member', id: actor.userId }, clock, { count: ended });
    return { ended };
  });
}
