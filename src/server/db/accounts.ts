import type { Knex } from 'knex';
import type { Role } from '@/core/access';
import type { Audience } from '@/core/card';
import type { Tx } from './pool';

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
};
export type OrganisationRow = {
  id: string;
  name: string;
  country: string;
  time_zone: string;
  audiences: Audience[] | null;
};

export const insertOrganisation = (tx: Tx, row: Omit<OrganisationRow, 'audiences'>) => tx('organisations').insert(row);

export const organisation = async (tx: Tx, id: string): Promise<OrganisationRow | undefined> =>
  tx('organisations').where({ id }).first();

export const setAudiences = (tx: Tx, id: string, audiences: Audience[] | null) =>
  tx('organisations')
    .where({ id })
    .update({ audiences: audiences && JSON.stringify(audiences) });

export const insertUser = (tx: Tx, row: Omit<UserRow, 'left_at'>) => tx('users').insert(row);

/** Whoever signs in with this address; not who has left. */
export const userByEmail = async (db: Knex, email: string): Promise<UserRow | undefined> =>
  (await db.raw<{ rows: UserRow[] }>('SELECT * FROM account_by_email(?)', [email])).rows[0];

/** The members of an organisation, those who have left last. */
export const members = async (tx: Tx, organisationId: string): Promise<UserRow[]> =>
  tx('users').where({ organisation_id: organisationId }).orderByRaw('left_at IS NOT NULL, name');

/** A member, locked until the end of the transaction. */
export const memberForUpdate = async (tx: Tx, organisationId: string, id: string): Promise<UserRow | undefined> =>
  tx('users').where({ organisation_id: organisationId, id, left_at: null }).forUpdate().first();

/** The owners of an organisation, locked, so that two who demote each other at once do not leave it without one. */
export const ownersForUpdate = async (tx: Tx, organisationId: string): Promise<{ id: string }[]> =>
  tx('users').where({ organisation_id: organisationId, role: 'owner', left_at: null }).forUpdate().select('id');

export const updateMember = (
  tx: Tx,
  organisationId: string,
  id: string,
  row: Partial<Pick<UserRow, 'role' | 'own_record' | 'password_hash' | 'must_change_password' | 'left_at'>>,
) => tx('users').where({ organisation_id: organisationId, id }).update(row);

/** Somebody who has not left. */
export const member = async (tx: Tx, id: string): Promise<UserRow | undefined> =>
  tx('users').where({ id, left_at: null }).first();

export const insertSession = (
  tx: Tx,
  row: { token_hash: Buffer; user_id: string; organisation_id: string; expires_at: Date },
) => tx('sessions').insert(row);

export const deleteSession = (db: Knex, tokenHash: Buffer) => db.raw('SELECT end_session(?)', [tokenHash]);

/** Ends the sessions of a member, all but the one whose token is given. */
export const deleteSessionsOf = (tx: Tx, userId: string, except: Buffer | null) =>
  tx('sessions')
    .where({ user_id: userId })
    .modify((query) => (except ? query.whereNot('token_hash', except) : query))
    .delete();

export const userBySession = async (db: Knex, tokenHash: Buffer, now: Date): Promise<UserRow | undefined> =>
  (await db.raw<{ rows: UserRow[] }>('SELECT * FROM account_by_session(?, ?)', [tokenHash, now])).rows[0];

/** Sessions that have ended. */
export const forgetEndedSessions = (db: Knex, now: Date) => db.raw('SELECT forget_ended_sessions(?)', [now]);

/** Time zones that the database knows. */
export const timeZoneNames = async (db: Knex): Promise<string[]> =>
  (await db('pg_timezone_names').select<{ name: string }[]>('name')).map(({ name }) => name);
