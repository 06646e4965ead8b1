import type { Knex } from 'knex';
import { LinesSchema, type Line } from '@/core/card';
import { ToldSchema, type CameBy, type EntryKind, type LeadState, type LooksWrong, type Told } from '@/core/replies';
import { RecordSchema, type PersonRecord } from '@/core/record';
import type { Tx } from '../pool';
import type { Consent } from './replies';

export type LeadRow = {
  id: string;
  organisation_id: string;
  user_id: string;
  written_name: string;
  body: PersonRecord;
  lines: Line[];
  version: number;
  updated_at: Date;
  private: boolean;
  state: LeadState;
  came_at: Date;
  came_by: CameBy;
  last_at: Date;
  card_id: string | null;
  hand_out_id: string | null;
  occasion_id: string | null;
  due_on: string | null;
  topics: string[];
};

/** Replies of a card that wait for a nod. */
export const countWaiting = async (tx: Tx, cardId: string): Promise<number> =>
  (await tx.raw<{ rows: { count: number }[] }>('SELECT replies_waiting(?) AS count', [cardId])).rows[0]!.count;

/** The occasion that a hand-out is for. */
export const occasionOf = async (tx: Tx, handOutId: string | null): Promise<string | null> =>
  handOutId === null
    ? null
    : ((await tx('hand_outs').where({ id: handOutId }).first<{ occasion_id: string | null }>('occasion_id'))
        ?.occasion_id ?? null);

const parsed = (row: LeadRow): LeadRow => ({
  ...row,
  body: RecordSchema.parse(row.body),
  lines: LinesSchema.parse(row.lines),
});

const COLUMNS = [
  ...['id', 'organisation_id', 'user_id', 'written_name', 'body', 'lines', 'version', 'updated_at', 'private', 'state'],
  ...['came_at', 'came_by', 'last_at', 'card_id', 'hand_out_id', 'occasion_id', 'topics'],
] as const;

/** A lead that whoever asks may see; locked where it is about to be changed. */
export async function lead(tx: Tx, id: string, lock: 'locked' | null = null): Promise<LeadRow | undefined> {
  const row: LeadRow | undefined = await tx('contacts')
    .where({ id })
    .whereNotNull('state')
    .modify((query) => lock && query.forUpdate())
    .first(...COLUMNS, tx.raw(`to_char(due_on, 'YYYY-MM-DD') AS due_on`));
  return row && parsed(row);
}

type LeadChange = Partial<
  Pick<
    LeadRow,
    | 'written_name'
    | 'body'
    | 'lines'
    | 'version'
    | 'updated_at'
    | 'private'
    | 'state'
    | 'last_at'
    | 'due_on'
    | 'topics'
    | 'occasion_id'
  >
> & { marks?: string[]; words?: string };

const written = (tx: Tx, { body, lines, words, ...row }: LeadChange) => ({
  ...row,
  ...(body ? { body: JSON.stringify(body) } : {}),
  ...(lines ? { lines: JSON.stringify(lines) } : {}),
  ...(words === undefined ? {} : { words: tx.raw('searched(?)', [words]) }),
});

export const updateLead = (tx: Tx, id: string, change: LeadChange): Promise<number> =>
  tx('contacts').where({ id }).update(written(tx, change));

export const insertLead = (
  tx: Tx,
  row: Omit<LeadRow, 'version' | 'due_on'> & { marks: string[]; words: string },
): Promise<unknown> => tx('contacts').insert(written(tx, row));

export const countLeads = async (tx: Tx, most: number): Promise<number> =>
  Number(
    (
      await tx
        .from(tx('contacts').whereNotNull('state').limit(most).select('id').as('some'))
        .count<{ count: string }[]>()
    )[0]!.count,
  );

/** How many of somebody's leads nobody has done anything with yet. */
export const countNew = async (tx: Tx, userId: string): Promise<number> =>
  Number((await tx('contacts').where({ user_id: userId, state: 'new' }).count<{ count: string }[]>())[0]!.count);

/** What is asked of a list of leads; `users` null where they are anybody's, `after` the last of the list before. */
export type AskedLeads = {
  users: string[] | null;
  state: LeadState | null;
  topic: string | null;
  occasion: string | null;
  due: string | null;
  words: string[];
  after: { at: string; id: string } | null;
  most: number;
};

export async function findLeads(tx: Tx, { after, ...asked }: AskedLeads): Promise<string[]> {
  const wanted = { ...asked, afterAt: after?.at ?? null, afterId: after?.id ?? null };
  const { rows } = await tx.raw<{ rows: { id: string }[] }>('SELECT id FROM find_leads(?)', [JSON.stringify(wanted)]);
  return rows.map(({ id }) => id);
}

export type ListedLeadRow = Pick<
  LeadRow,
  'id' | 'user_id' | 'written_name' | 'private' | 'state' | 'came_at' | 'came_by' | 'last_at' | 'due_on' | 'topics'
> & {
  firm: string | null;
  title: string | null;
  email: string | null;
  phone: string | null;
  owner: string;
  where: string;
  waits: boolean;
};

const first = (kind: string, key: string) =>
  `(SELECT d->>'${key}' FROM jsonb_array_elements(c.body->'details') d WHERE d->>'kind' = '${kind}' LIMIT 1)`;

/** What a list shows of leads, the latest first. */
export const listedLeads = async (tx: Tx, ids: string[]): Promise<ListedLeadRow[]> =>
  (
    await tx.raw<{ rows: ListedLeadRow[] }>(
      `SELECT c.id, c.user_id, c.written_name, c.private, c.state, c.came_at, c.came_by, c.last_at, to_char(c.due_on, 'YYYY-MM-DD') AS due_on, c.topics,
         ${first('organisation', 'name')} AS firm, ${first('title', 'text')} AS title, ${first('email', 'address')} AS email,
         ${first('phone', 'number')} AS phone, u.name AS owner, concat_ws(' · ', h.placement, o.name) AS where,
         EXISTS (SELECT 1 FROM replies r WHERE r.organisation_id = c.organisation_id AND r.contact_id = c.id AND r.looks_wrong IS NOT NULL AND r.nodded_at IS NULL) AS waits
       FROM contacts c JOIN users u ON u.id = c.user_id LEFT JOIN hand_outs h ON h.id = c.hand_out_id LEFT JOIN occasions o ON o.id = c.occasion_id
       WHERE c.id = ANY (?) ORDER BY c.last_at DESC, c.id DESC`,
      [ids],
    )
  ).rows;

export type ExportedLead = LeadRow & { owner: string; where: string; said: string };

/** Leads as their owner takes them along, the latest first; `said` is what they wrote. */
export const exportedLeads = async (tx: Tx, ids: string[]): Promise<ExportedLead[]> =>
  (
    await tx.raw<{ rows: ExportedLead[] }>(
      `SELECT ${COLUMNS.map((name) => `c.${name}`).join(', ')}, to_char(c.due_on, 'YYYY-MM-DD') AS due_on, u.name AS owner, concat_ws(' · ', h.placement, o.name) AS where,
         coalesce((SELECT string_agg(concat_ws(' ', r.told->>'note', r.told->>'answer'), ' / ' ORDER BY r.at) FROM replies r
           WHERE r.organisation_id = c.organisation_id AND r.contact_id = c.id), '') AS said
       FROM contacts c JOIN users u ON u.id = c.user_id LEFT JOIN hand_outs h ON h.id = c.hand_out_id LEFT JOIN occasions o ON o.id = c.occasion_id
       WHERE c.id = ANY (?) ORDER BY c.last_at DESC, c.id DESC`,
      [ids],
    )
  ).rows.map((row) => ({ ...parsed(row), owner: row.owner, where: row.where, said: row.said }));

export type EntryRow = {
  id: string;
  organisation_id: string;
  contact_id: string;
  user_id: string | null;
  kind: EntryKind;
  at: Date;
  place: string;
  text: string;
  private: boolean;
};

export const entriesOf = async (
  tx: Tx,
  contactId: string,
  most: number,
): Promise<(EntryRow & { by: string | null })[]> =>
  tx('lead_entries as e')
    .leftJoin('users as u', 'u.id', 'e.user_id')
    .where({ contact_id: contactId })
    .orderBy([{ column: 'at', order: 'desc' }, 'e.id'])
    .limit(most)
    .select('e.*', 'u.name as by');

export const insertEntry = (tx: Tx, row: EntryRow) => tx('lead_entries').insert(row);
export const countEntries = async (tx: Tx, contactId: string): Promise<number> =>
  Number((await tx('lead_entries').where({ contact_id: contactId }).count<{ count: string }[]>())[0]!.count);

/** Of a lead's notes those of one author. */
export const updateEntry = (
  tx: Tx,
  { id, contact_id, user_id }: Pick<EntryRow, 'id' | 'contact_id'> & { user_id: string },
  change: Pick<EntryRow, 'at' | 'place' | 'text' | 'private'>,
): Promise<number> => tx('lead_entries').where({ id, contact_id, user_id }).update(change);
export const deleteEntry = (tx: Tx, key: Pick<EntryRow, 'id' | 'contact_id'> & { user_id: string }): Promise<number> =>
  tx('lead_entries').where(key).delete();

export type FollowUpRow = {
  id: string;
  organisation_id: string;
  contact_id: string;
  due_on: string;
  what: string;
  done_at: Date | null;
};

export const followUpsOf = async (tx: Tx, contactId: string): Promise<FollowUpRow[]> =>
  tx('follow_ups')
    .where({ contact_id: contactId })
    .orderByRaw('done_at IS NOT NULL, due_on, id')
    .select(
      'id',
      'organisation_id',
      'contact_id',
      'what',
      'done_at',
      tx.raw(`to_char(due_on, 'YYYY-MM-DD') AS due_on`),
    );

export const insertFollowUp = (tx: Tx, row: FollowUpRow) => tx('follow_ups').insert(row);
export const updateFollowUp = (
  tx: Tx,
  key: Pick<FollowUpRow, 'id' | 'contact_id'>,
  change: Partial<Pick<FollowUpRow, 'due_on' | 'what' | 'done_at'>>,
): Promise<number> => tx('follow_ups').where(key).update(change);
export const deleteFollowUp = (tx: Tx, key: Pick<FollowUpRow, 'id' | 'contact_id'>): Promise<number> =>
  tx('follow_ups').where(key).delete();

/** The day of the next thing to be done for a lead, kept with it. */
export const setDue = (tx: Tx, contactId: string) =>
  tx.raw(
    'UPDATE contacts SET due_on = (SELECT min(due_on) FROM follow_ups WHERE contact_id = contacts.id AND done_at IS NULL) WHERE id = ?',
    [contactId],
  );

export type DueRow = { contact_id: string; id: string; name: string; due_on: string; what: string };

/** What somebody has to do by a day, the oldest first. */
export const dueOf = async (tx: Tx, userId: string, day: string, most: number): Promise<DueRow[]> =>
  tx('follow_ups as f')
    .join('contacts as c', 'c.id', 'f.contact_id')
    .where({ 'c.user_id': userId, 'f.done_at': null })
    .where('c.due_on', '<=', day)
    .where('f.due_on', '<=', day)
    .orderBy(['f.due_on', 'f.id'])
    .limit(most)
    .select(
      'f.contact_id',
      'f.id',
      'c.written_name as name',
      'f.what',
      tx.raw(`to_char(f.due_on, 'YYYY-MM-DD') AS due_on`),
    );

export type ReplyRow = {
  id: string;
  card_id: string;
  hand_out_id: string | null;
  at: Date;
  told: Told;
  consent: Consent;
  address: string | null;
  followed_at: Date | null;
  views_agreed_at: Date | null;
  looks_wrong: LooksWrong[] | null;
  nodded_at: Date | null;
};

export async function repliesOf(tx: Tx, contactId: string): Promise<ReplyRow[]> {
  const rows: ReplyRow[] = await tx('replies')
    .where({ contact_id: contactId })
    .orderBy('at', 'desc')
    .limit(100)
    .select(
      ...['id', 'card_id', 'hand_out_id', 'at', 'told', 'consent', 'address', 'followed_at', 'views_agreed_at'],
      ...['looks_wrong', 'nodded_at'],
    );
  return rows.map((row) => ({ ...row, told: ToldSchema.parse(row.told) }));
}

/** Notes that a reply was looked at and is one, and counts it; tells whether it waited. */
export async function nodTo(tx: Tx, id: string, at: Date): Promise<boolean> {
  const nodded = await tx('replies')
    .where({ id, nodded_at: null })
    .whereNotNull('looks_wrong')
    .update({ nodded_at: at });
  if (nodded > 0) await tx.raw('SELECT count_reply(?)', [id]);
  return nodded > 0;
}

/** Erases a lead that whoever asks may see, with everything that was told and noted. */
export const eraseLead = (tx: Tx, id: string, at: Date) => tx.raw('SELECT erase_own_lead(?, ?)', [id, at]);

/** Makes a lead a colleague's; false where there is no such colleague. */
export const handOverLead = async (tx: Tx, id: string, heir: string): Promise<boolean> =>
  (await tx.raw<{ rows: { done: boolean }[] }>('SELECT hand_over_lead(?, ?) AS done', [id, heir])).rows[0]!.done;

/** A leaver's shared leads go to somebody else; private ones wait to be erased with their account. */
export const passLeads = (tx: Tx, leaver: string, heir: string) => tx.raw('SELECT pass_leads(?, ?)', [leaver, heir]);

/** The topics of somebody's latest leads, the most used first. */
export const topicsOf = async (tx: Tx, userId: string, most: number): Promise<string[]> =>
  (
    await tx.raw<{ rows: { topic: string }[] }>(
      `SELECT t AS topic FROM (SELECT topics FROM contacts WHERE user_id = ? AND state IS NOT NULL ORDER BY last_at DESC LIMIT 2000) latest, unnest(topics) t
       GROUP BY t ORDER BY count(*) DESC, t LIMIT ?`,
      [userId, most],
    )
  ).rows.map(({ topic }) => topic);

/** Others that are known by the same mark, among those that whoever asks may see: of these users, or null of all. */
export const doublesOf = async (
  tx: Tx,
  id: string,
  most: number,
  users: string[] | null,
): Promise<{ id: string; name: string; private: boolean }[]> =>
  (
    await tx.raw<{ rows: { id: string; name: string; private: boolean }[] }>('SELECT * FROM doubles_of_lead(?, ?, ?)', [
      id,
      most,
      users,
    ])
  ).rows;

/** Erases leads that nobody has touched for as long as their organisation keeps them; `months` where it has not said. */
export const forgetLeads = (db: Knex, at: Date, months: number) => db.raw('SELECT forget_leads(?, ?)', [at, months]);

export type EveningDue = { organisation_id: string; user_id: string; day: string };

/** Whom to tell who came today: where they are it is that hour or later, and nobody has told them yet. */
export const dueEvenings = async (db: Knex, at: Date, hour: number): Promise<EveningDue[]> =>
  (
    await db.raw<{ rows: EveningDue[] }>(
      `SELECT organisation_id, user_id, to_char(day, 'YYYY-MM-DD') AS day FROM due_evenings(?, ?)`,
      [at, hour],
    )
  ).rows;

/** Notes that somebody is told on a day; false where they were already. */
export const beginEvening = async (tx: Tx, row: EveningDue): Promise<boolean> =>
  (await tx('evenings').insert(row).onConflict(['user_id', 'day']).ignore().returning('day')).length > 0;

export type CameRow = {
  id: string;
  name: string;
  about: string | null;
  reach: string | null;
  where: string;
  said: string;
  todo: string;
};

/** Somebody's leads that came since an instant, with what they wrote and what is to be done, the first one first. */
export const cameSince = async (tx: Tx, userId: string, since: Date, most: number): Promise<CameRow[]> =>
  (
    await tx.raw<{ rows: CameRow[] }>(
      `SELECT c.id, c.written_name AS name, ${first('organisation', 'name')} AS about,
         coalesce(${first('email', 'address')}, ${first('phone', 'number')}) AS reach, concat_ws(' · ', h.placement, o.name) AS where,
         coalesce((SELECT string_agg(r.told->>'note', ' / ' ORDER BY r.at) FROM replies r WHERE r.organisation_id = c.organisation_id
           AND r.contact_id = c.id AND r.told->>'note' <> ''), '') AS said,
         coalesce((SELECT string_agg(f.what, ', ' ORDER BY f.due_on) FROM follow_ups f WHERE f.organisation_id = c.organisation_id
           AND f.contact_id = c.id AND f.done_at IS NULL), '') AS todo
       FROM contacts c LEFT JOIN hand_outs h ON h.id = c.hand_out_id LEFT JOIN occasions o ON o.id = c.occasion_id
       WHERE c.user_id = ? AND c.state IS NOT NULL AND c.came_at >= ? ORDER BY c.came_at LIMIT ?`,
      [userId, since, most],
    )
  ).rows;

/** Views and saves by the hand-outs of an occasion since an instant; of all cards, or of those of some records. */
export async function countAt(
  tx: Tx,
  { occasionId, since, records }: { occasionId: string; since: Date; records: string[] | null },
): Promise<{ views: number; saves: number }> {
  const { rows } = await tx.raw<{ rows: { views: number; saves: number }[] }>(
    `SELECT count(*) FILTER (WHERE e.kind = 'view')::integer AS views, count(*) FILTER (WHERE e.kind = 'save')::integer AS saves
     FROM hand_outs h JOIN cards c ON c.id = h.card_id JOIN events e ON e.card_id = c.id AND e.hand_out_id = h.id AND e.occurred_at >= ?
     WHERE h.occasion_id = ? AND (?::uuid[] IS NULL OR c.record_id = ANY (?::uuid[]))`,
    [since, occasionId, records, records],
  );
  return rows[0]!;
}
