import type { Knex } from 'knex';
import { CompositionSchema, LinesSchema, type Composition, type Line } from '@/core/card';
import { RecordSchema, type PersonRecord } from '@/core/record';
import type { Way } from '@/core/shown';
import type { PassedOn } from '@/core/wild';
import type { Tx } from '../pool';

export type ContactRow = {
  id: string;
  organisation_id: string;
  /** Whose acquaintance it is: nobody else sees it. */
  user_id: string;
  written_name: string;
  body: PersonRecord;
  /** Which lines are passed on, as they were ticked last. */
  lines: Line[];
  version: number;
  updated_at: Date;
};

/** By what somebody is known again, and what is searched. */
type Known = { marks: string[]; words: string };

const written = (tx: Tx, { body, lines, words, ...row }: Partial<ContactRow & Known>) => ({
  ...row,
  ...(words === undefined ? {} : { words: tx.raw('searched(?)', [words]) }),
  ...(body ? { body: JSON.stringify(body) } : {}),
  ...(lines ? { lines: JSON.stringify(lines) } : {}),
});

export const insertContact = (tx: Tx, row: Omit<ContactRow, 'version'> & Known) =>
  tx('contacts').insert(written(tx, row));

/** A contact of this member; locked where it is about to be changed. */
export async function contactOf(
  tx: Tx,
  userId: string,
  id: string,
  lock: 'locked' | null = null,
): Promise<ContactRow | undefined> {
  const found: ContactRow | undefined = await tx('contacts')
    .where({ id, user_id: userId })
    .modify((query) => lock && query.forUpdate())
    .first();
  return found && { ...found, body: RecordSchema.parse(found.body), lines: LinesSchema.parse(found.lines) };
}

export const updateContact = (
  tx: Tx,
  id: string,
  change: Pick<ContactRow, 'written_name' | 'body' | 'lines' | 'version' | 'updated_at'> & Known,
) => tx('contacts').where({ id }).update(written(tx, change));

export const countContacts = async (tx: Tx, userId: string): Promise<number> =>
  Number((await tx('contacts').where({ user_id: userId, state: null }).count<{ count: string }[]>())[0]!.count);

export type ListedContact = { id: string; written_name: string; last_at: Date | null; last_way: Way | null };

/** The contacts of a member who are no leads, by name, with when and how each was last referred. */
export const contactsOf = async (tx: Tx, userId: string, most: number): Promise<ListedContact[]> =>
  tx('contacts as c')
    .joinRaw(
      'LEFT JOIN LATERAL (SELECT r.at, r.way FROM referrals r WHERE r.contact_id = c.id AND r.organisation_id = c.organisation_id ORDER BY r.at DESC LIMIT 1) AS l ON true',
    )
    .where({ 'c.user_id': userId, 'c.state': null })
    .orderByRaw('lower(c.written_name), c.id')
    .limit(most)
    .select('c.id', 'c.written_name', 'l.at as last_at', 'l.way as last_way');

export type ReferralRow = {
  id: string;
  organisation_id: string;
  contact_id: string;
  way: Way;
  /** How many lines were passed on. */
  lines: number;
  at: Date;
  /** Of a link: the hash of its secret, what it shows, and until when. */
  token_hash: Buffer | null;
  composition: Composition | null;
  ends_at: Date | null;
  /** What went along, value by value. */
  carried: PassedOn[];
};

export const insertReferral = (tx: Tx, { composition, carried, ...row }: ReferralRow) =>
  tx('referrals').insert({
    ...row,
    composition: composition && JSON.stringify(composition),
    carried: JSON.stringify(carried),
  });

export const referralsOf = async (
  tx: Tx,
  contactId: string,
  most: number,
): Promise<Pick<ReferralRow, 'id' | 'way' | 'lines' | 'at' | 'ends_at' | 'carried'>[]> =>
  tx('referrals')
    .where({ contact_id: contactId })
    .orderBy('at', 'desc')
    .limit(most)
    .select('id', 'way', 'lines', 'at', 'ends_at', 'carried');

/** Ends a link now; what it showed goes. */
export const endReferral = (tx: Tx, contactId: string, id: string, at: Date): Promise<number> =>
  tx('referrals')
    .where({ id, contact_id: contactId, way: 'link' })
    .update({ composition: null, ends_at: tx.raw('least(ends_at, ?::timestamptz)', [at]) });

/** A link by the hash of its secret, whoever asks. */
export const referralBy = async (
  db: Knex,
  tokenHash: Buffer,
): Promise<{ id: string; organisation_id: string; ends_at: Date } | undefined> =>
  (
    await db.raw<{ rows: { id: string; organisation_id: string; ends_at: Date }[] }>('SELECT * FROM find_referral(?)', [
      tokenHash,
    ])
  ).rows[0];

/** What a link shows, whoever asks. */
export async function referral(
  tx: Tx,
  id: string,
): Promise<(Pick<ReferralRow, 'contact_id' | 'at'> & { composition: Composition | null }) | undefined> {
  type Shown = Pick<ReferralRow, 'contact_id' | 'at' | 'composition'>;
  const [row] = (await tx.raw<{ rows: Shown[] }>('SELECT * FROM shown_referral(?)', [id])).rows;
  return row && { ...row, composition: row.composition && CompositionSchema.parse(row.composition) };
}

/** Forgets what ended links showed, and links that ended before. */
export const forgetEndedReferrals = (db: Knex, at: Date, before: Date) =>
  db.raw('SELECT forget_ended_referrals(?, ?)', [at, before]);
