import type { Db } from '../pool';

/** The stand-in authority of this installation, as PEM; its key is closed by the installation's secret. */
export type AuthorityRow = { certificate: string; authority: string; key: string };

export const passAuthority = async (db: Db): Promise<AuthorityRow | undefined> =>
  db('pass_authority').select('certificate', 'authority', 'key').first();

/** Keeps an authority unless another process was there first, and gives the one that is kept. */
export async function keepAuthority(db: Db, row: AuthorityRow): Promise<AuthorityRow> {
  await db('pass_authority')
    .insert({ only_one: true, ...row })
    .onConflict('only_one')
    .ignore();
  return (await passAuthority(db))!;
}

/** Forgets an authority that is of no use any more, and no other. */
export const forgetAuthority = (db: Db, { certificate }: AuthorityRow) =>
  db('pass_authority').where({ certificate }).delete();
