import type { Knex } from 'knex';
import type { Role } from '@/core/access';
import type { Audience } from '@/core/card';
import type { LegalLinks } from '@/core/page';
import type { Tx } from '../pool';

export type UserRow = {
  id: string;
  organisation_id: string;
  email: string;
  password_hash: string;
  name: string;
  role: Role;
  own_record: string | null;
  must_change_password: boolean;
  left_at: Date | null;
  /** The second factor's key, since when it counts, and the last step that was used. The key is read within the tenant alone. */
  totp_secret?: string | null;
  totp_since: Date | null;
  totp_step?: string | number;
  /** When whoever reads this address said that it is theirs. */
  email_confirmed_at: Date | null;
  /** Its address is another account's: it is not signed in with before that is gone. */
  provisional?: boolean;
};
export type OrganisationRow = {
  id: string;
  name: string;
  country: string;
  time_zone: string;
  audiences: Audience[] | null;
  /** Whether everybody needs a second factor. */
  second_factor: boolean;
  deleted_at: Date | null;
  /** What it links to below each of its pages. */
  links: LegalLinks;
  /** What it gives its members to begin with. */
  defaults: unknown;
};

export const insertOrganisation = (
  tx: Tx,
  row: Omit<OrganisationRow, 'audiences' | 'second_factor' | 'deleted_at' | 'links' | 'defaults'>,
) => tx('organisations').insert(row);

export const organisation = async (tx: Tx, id: string): Promise<OrganisationRow | undefined> =>
  tx('organisations').where({ id }).first();

export const updateOrganisation = (
  tx: Tx,
  id: string,
  row: Pick<OrganisationRow, 'name' | 'country' | 'time_zone'> & { links: string; defaults: string },
) => tx('organisations').where({ id }).update(row);

export const setAudiences = (tx: Tx, id: string, audiences: Audience[] | null) =>
  tx('organisations')
    .where({ id })
    .update({ audiences: audiences && JSON.stringify(audiences) });

export const insertUser = (
  tx: Tx,
  row: Omit<UserRow, 'left_at' | 'totp_since' | 'totp_secret' | 'totp_step' | 'email_confirmed_at'>,
) => tx('users').insert(row);

/** Whoever signs in with this address; not who has left. */
export const userByEmail = async (db: Knex, email: string): Promise<UserRow | undefined> =>
  (await db.raw<{ rows: UserRow[] }>('SELECT * FROM account_by_email(?)', [email])).rows[0];

/** The latest account that was made with an address that another account has. */
export async function provisionalByEmail(
  db: Knex,
  email: string,
): Promise<{ id: string; organisation_id: string } | undefined> {
  type Found = { rows: { id: string; organisation_id: string }[] };
  return (await db.raw<Found>('SELECT * FROM provisional_account(?)', [email])).rows[0];
}

/** The members of an organisation, those who have left last; of who was erased there is no more than an id. */
export const members = async (
  tx: Tx,
  organisationId: string,
  { words, after, most }: { words: string; after: string | null; most: number },
): Promise<UserRow[]> =>
  tx('users')
    .where({ organisation_id: organisationId })
    .whereNot({ name: '' })
    .modify((query) => {
      if (words) void query.whereRaw("strpos(lower(name || ' ' || email), lower(?)) > 0", [words]);
      if (after)
        void query.whereRaw(
          '(left_at IS NOT NULL, name, id) > (SELECT u.left_at IS NOT NULL, u.name, u.id FROM users u WHERE u.id = ?)',
          [after],
        );
    })
    .orderByRaw('left_at IS NOT NULL, name, id')
    .limit(most);

/** Members of some roles by name, `alsoLeft` those who have left with them. */
export const membersOfRoles = async (
  tx: Tx,
  roles: Role[],
  alsoLeft = false,
): Promise<Pick<UserRow, 'id' | 'name'>[]> =>
  tx('users')
    .whereIn('role', roles)
    .whereNot({ name: '' })
    .modify((query) => {
      if (!alsoLeft) void query.where({ left_at: null });
    })
    .orderBy('name')
    .select('id', 'name');

/** Names of users by their ids; of those who are erased none. */
export const userNames = async (tx: Tx, ids: string[]): Promise<Pick<UserRow, 'id' | 'name'>[]> =>
  tx('users').whereIn('id', ids).whereNot({ name: '' }).select('id', 'name');

/** The members whose own records these are. */
export const usersOfRecords = async (tx: Tx, records: string[]): Promise<string[]> =>
  records.length === 0
    ? []
    : (await tx('users').whereIn('own_record', records).where({ left_at: null }).select<{ id: string }[]>('id')).map(
        ({ id }) => id,
      );

/** Whom a lead can be handed over to. */
export const colleagues = async (tx: Tx, most: number): Promise<Pick<UserRow, 'id' | 'name'>[]> =>
  tx('users')
    .where({ left_at: null })
    .whereNot({ name: '' })
    .whereNot({ role: 'analyst' })
    .orderBy('name')
    .limit(most)
    .select('id', 'name');

export const countMembers = async (tx: Tx): Promise<number> =>
  Number((await tx('users').where({ left_at: null }).count<{ count: string }[]>('* as count'))[0]!.count);

/** A member, locked until the end of the transaction. */
export const memberForUpdate = async (tx: Tx, organisationId: string, id: string): Promise<UserRow | undefined> =>
  tx('users').where({ organisation_id: organisationId, id, left_at: null }).forUpdate().first();

/** Whether a member is told in the evening whom their cards brought. */
export const wantsEveningMail = async (tx: Tx, id: string): Promise<boolean> =>
  (await tx('users').where({ id }).first<{ evening_mail: boolean }>('evening_mail')).evening_mail;
export const setEveningMail = (tx: Tx, id: string, on: boolean): Promise<number> =>
  tx('users').where({ id }).update({ evening_mail: on });

/** Somebody who was removed and is not erased yet, locked until the end of the transaction. */
export const leftMember = async (tx: Tx, organisationId: string, id: string): Promise<UserRow | undefined> =>
  tx('users')
    .where({ organisation_id: organisationId, id })
    .whereNotNull('left_at')
    .whereNot({ name: '' })
    .forUpdate()
    .first();

/** The owners of an organisation, locked, so that two who demote each other at once do not leave it without one. */
export const ownersForUpdate = async (tx: Tx, organisationId: string): Promise<{ id: string }[]> =>
  tx('users').where({ organisation_id: organisationId, role: 'owner', left_at: null }).forUpdate().select('id');

export const updateMember = (
  tx: Tx,
  organisationId: string,
  id: string,
  row: Partial<
    Pick<
      UserRow,
      | 'role'
      | 'own_record'
      | 'password_hash'
      | 'must_change_password'
      | 'left_at'
      | 'email'
      | 'email_confirmed_at'
      | 'provisional'
      | 'totp_secret'
      | 'totp_since'
      | 'totp_step'
    >
  >,
) => tx('users').where({ organisation_id: organisationId, id }).update(row);

/** Somebody who has not left. */
export const member = async (tx: Tx, id: string): Promise<UserRow | undefined> =>
  tx('users').where({ id, left_at: null }).first();

export type SessionRow = {
  id: string;
  token_hash: Buffer;
  user_id: string;
  organisation_id: string;
  device: string;
  created_at: Date;
  seen_at: Date;
  /** When the password was typed for it. */
  confirmed_at: Date;
  expires_at: Date;
};

export const insertSession = (tx: Tx, row: Omit<SessionRow, 'id'>) => tx('sessions').insert(row);

export const deleteSession = (db: Knex, tokenHash: Buffer) => db.raw('SELECT end_session(?)', [tokenHash]);

/** The sessions of a member that hold, the latest used first. */
export const sessionsOf = async (tx: Tx, userId: string, now: Date, idleSince: Date): Promise<SessionRow[]> =>
  tx('sessions')
    .where({ user_id: userId })
    .where('expires_at', '>', now)
    .where('seen_at', '>', idleSince)
    .orderBy('seen_at', 'desc')
    .limit(100);

export const deleteOwnSession = (tx: Tx, userId: string, id: string): Promise<number> =>
  tx('sessions').where({ user_id: userId, id }).delete();

/** Ends the sessions of a member, all but the one that is named; answers how many. */
export const deleteSessionsOf = (tx: Tx, userId: string, keep: { except: string } | null): Promise<number> =>
  tx('sessions')
    .where({ user_id: userId })
    .modify((query) => (keep ? query.whereNot('id', keep.except) : query))
    .delete();

export const confirmSession = (tx: Tx, id: string, at: Date) =>
  tx('sessions').where({ id }).update({ confirmed_at: at });

/** Whoever holds a session that has not ended and was used within so many days. */
/** Who holds a session, with what every request needs of their organisation. */
export type HolderRow = UserRow & {
  session_id: string;
  confirmed_at: Date;
  own_name: string;
  own_country: string;
  own_time_zone: string;
  own_second_factor: boolean;
  own_deleted_at: Date | null;
  own_defaults: unknown;
  /** Whether nobody else is a member. */
  alone: boolean;
};

export const holderOfSession = async (
  db: Knex,
  tokenHash: Buffer,
  now: Date,
  idleDays: number,
): Promise<HolderRow | undefined> =>
  (
    await db.raw<{ rows: HolderRow[] }>('SELECT * FROM actor_by_session(?, ?, make_interval(days => ?))', [
      tokenHash,
      now,
      idleDays,
    ])
  ).rows[0];

/** Sessions that have ended. */
export const forgetEndedSessions = (db: Knex, now: Date) => db.raw('SELECT forget_ended_sessions(?)', [now]);

export const setSecondFactor = (tx: Tx, id: string, required: boolean) =>
  tx('organisations').where({ id }).update({ second_factor: required });

type RecoveryRow = { organisation_id: string; user_id: string; code_hash: Buffer };

/** Recovery codes of a member in place of those that there were. */
export async function keepRecoveryCodes(tx: Tx, rows: RecoveryRow[], userId: string): Promise<void> {
  await tx('recovery_codes').where({ user_id: userId }).delete();
  if (rows.length > 0) await tx('recovery_codes').insert(rows);
}

export const takeRecoveryCode = async (tx: Tx, userId: string, hash: Buffer): Promise<boolean> =>
  (await tx('recovery_codes').where({ user_id: userId, code_hash: hash }).delete()) === 1;

export const recoveryCodesLeft = async (tx: Tx, userId: string): Promise<number> =>
  Number((await tx('recovery_codes').where({ user_id: userId }).count<{ count: string }[]>('* as count'))[0]!.count);

type DeviceRow = { organisation_id: string; user_id: string; device_hash: Buffer; last_at: Date };

/** A browser that somebody has signed in with; the twenty latest are known again. */
export async function keepDevice(tx: Tx, row: DeviceRow): Promise<void> {
  await tx('known_devices').insert(row).onConflict(['user_id', 'device_hash']).merge(['last_at']);
  await tx('known_devices')
    .where({ user_id: row.user_id })
    .whereNotIn(
      'device_hash',
      tx('known_devices').where({ user_id: row.user_id }).orderBy('last_at', 'desc').limit(20).select('device_hash'),
    )
    .delete();
}

/** Whether somebody was signed in on any browser before. */
export const wasSignedIn = async (tx: Tx, userId: string): Promise<boolean> =>
  (await tx('known_devices').where({ user_id: userId }).first('user_id')) !== undefined ||
  (await tx('sessions').where({ user_id: userId }).first('id')) !== undefined;

export const knowsDevice = async (tx: Tx, userId: string, hash: Buffer): Promise<boolean> =>
  (await tx('known_devices').where({ user_id: userId, device_hash: hash }).first('user_id')) !== undefined;

/** Time zones that the database knows. */
export const timeZoneNames = async (db: Knex): Promise<string[]> =>
  (await db('pg_timezone_names').select<{ name: string }[]>('name')).map(({ name }) => name);
