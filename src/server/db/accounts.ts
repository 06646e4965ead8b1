import type { Knex } from 'knex';
import type { Tx } from './pool';

export type UserRow = {
  id: string;
  organisation_id: string;
  email: string;
  password_hash: string;
  name: string;
  role: 'owner';
};
export type OrganisationRow = { id: string; name: string; country: string; time_zone: string };

export const insertOrganisation = (tx: Tx, row: OrganisationRow) => tx('organisations').insert(row);

export const organisation = async (tx: Tx, id: string): Promise<OrganisationRow | undefined> =>
  tx('organisations').where({ id }).first();

export const insertUser = (tx: Tx, row: UserRow) => tx('users').insert(row);

export const userByEmail = async (db: Knex, email: string): Promise<UserRow | undefined> =>
  db('users').where({ email }).first();

export const insertSession = (db: Knex, row: { token_hash: Buffer; user_id: string; expires_at: Date }) =>
  db('sessions').insert(row);

export const deleteSession = (db: Knex, tokenHash: Buffer) => db('sessions').where({ token_hash: tokenHash }).delete();

export const userBySession = async (db: Knex, tokenHash: Buffer, now: Date): Promise<UserRow | undefined> =>
  db('sessions')
    .join('users', 'users.id', 'sessions.user_id')
    .where('sessions.token_hash', tokenHash)
    .where('sessions.expires_at', '>', now)
    .first('users.*');

export const insertAttempts = (db: Knex, keys: Buffer[], at: Date) =>
  db('sign_in_attempts').insert(keys.map((key_hash) => ({ key_hash, at })));

export const attemptsSince = async (db: Knex, key: Buffer, since: Date): Promise<number> => {
  const row = await db('sign_in_attempts')
    .where({ key_hash: key })
    .where('at', '>', since)
    .count<{ count: string }[]>('* as count')
    .first();
  return Number(row?.count ?? 0);
};

/** Attempts and sessions that no longer matter. */
export const forgetEnded = async (db: Knex, attemptsBefore: Date, now: Date) => {
  await db('sign_in_attempts').where('at', '<', attemptsBefore).delete();
  await db('sessions').where('expires_at', '<', now).delete();
};
