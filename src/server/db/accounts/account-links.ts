import type { Knex } from 'knex';
import type { Tx } from '../pool';

/** What a link that was sent by mail lets its holder do. Of each there is one for an account: a newer one ends the older. */
export type LinkPurpose = 'confirm' | 'password' | 'move-from' | 'move-to' | 'welcome';
export type LinkRow = {
  organisation_id: string;
  user_id: string;
  purpose: LinkPurpose;
  token_hash: Buffer;
  /** The address that it is about. */
  email: string;
  created_at: Date;
  expires_at: Date;
  agreed_at: Date | null;
};

export const keepLink = (tx: Tx, row: LinkRow) =>
  tx('account_links').insert(row).onConflict(['organisation_id', 'user_id', 'purpose']).merge();

export type FoundLink = Pick<LinkRow, 'organisation_id' | 'user_id' | 'purpose' | 'email' | 'agreed_at'>;

/** What a token is for, while it holds and its account is there. */
export const linkByToken = async (db: Knex, hash: Buffer, at: Date): Promise<FoundLink | undefined> =>
  (await db.raw<{ rows: FoundLink[] }>('SELECT * FROM account_link(?, ?)', [hash, at])).rows[0];

/** The links of an account, locked. */
export const linksOf = async (tx: Tx, userId: string, at: Date): Promise<LinkRow[]> =>
  tx('account_links').where({ user_id: userId }).where('expires_at', '>', at).forUpdate();

export const dropLinks = (tx: Tx, userId: string, purposes: LinkPurpose[]): Promise<number> =>
  tx('account_links').where({ user_id: userId }).whereIn('purpose', purposes).delete();

export const agreeToLink = (tx: Tx, userId: string, purpose: LinkPurpose, at: Date): Promise<number> =>
  tx('account_links').where({ user_id: userId, purpose }).update({ agreed_at: at });
