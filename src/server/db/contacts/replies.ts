import type { Knex } from 'knex';
import type { Line } from '@/core/card';
import { ToldSchema, type LooksWrong, type Told } from '@/core/replies';
import { RecordSchema, type PersonRecord } from '@/core/record';
import type { Tx } from '../pool';

/** The sentence that was agreed to, as it stood there. */
export type Consent = { number: number; language: string; sentence: string };

/** A reply with the record that is made of it, where its sender is not known yet. Ids, hashes in hexadecimal. */
export type GivenReply = {
  reply: string;
  contact: string;
  user: string;
  private: boolean;
  by: 'reply' | 'handed';
  at: Date;
  card: string;
  handOut: string | null;
  occasion: string | null;
  told: Told;
  consent: Consent;
  address: string | null;
  content: string;
  pageHash: string;
  mailHash: string;
  wrong: LooksWrong[];
  name: string;
  body: PersonRecord;
  lines: Line[];
  marks: string[];
  words: string;
  /** Ids of the mails that say what it says. */
  mails: string[];
};

export type TakenReply = { reply: string; contact: string; again: boolean };

/** Takes a reply down; the same within a day is found and not taken twice. */
export const takeReply = async (tx: Tx, given: GivenReply): Promise<TakenReply> =>
  (await tx.raw<{ rows: TakenReply[] }>('SELECT * FROM take_reply(?)', [JSON.stringify(given)])).rows[0]!;

/** Notes which mails say what a reply says, so that they go with it. */
export const noteMailsOf = (tx: Tx, reply: string, ids: string[]) =>
  tx.raw('SELECT mails_of_reply(?, ?)', [reply, ids]);

export type FoundReply = { id: string; organisation_id: string; by_mail: boolean };

/** A reply by the hash of its lasting link, whoever asks. */
export const replyBy = async (db: Knex, hash: Buffer): Promise<FoundReply | undefined> =>
  (await db.raw<{ rows: FoundReply[] }>('SELECT * FROM find_reply(?)', [hash])).rows[0];

/** What its sender may see of a reply; `told` is null of what was erased. */
export type OwnReply = {
  card_id: string;
  hand_out_id: string | null;
  at: Date;
  told: Told | null;
  consent: Consent | null;
  address: string | null;
  followed_at: Date | null;
  views_agreed_at: Date | null;
  body: PersonRecord | null;
  contact_id: string | null;
};

export async function replyOf(tx: Tx, id: string): Promise<OwnReply | undefined> {
  const { rows } = await tx.raw<{ rows: OwnReply[] }>('SELECT * FROM reply_of(?)', [id]);
  const row = rows[0];
  return (
    row && { ...row, told: row.told && ToldSchema.parse(row.told), body: row.body && RecordSchema.parse(row.body) }
  );
}

export const followReply = (tx: Tx, id: string, at: Date) => tx.raw('SELECT follow_reply(?, ?)', [id, at]);

export const agreeToViews = (tx: Tx, id: string, agreed: boolean, at: Date) =>
  tx.raw('SELECT agree_to_views(?, ?, ?)', [id, agreed, at]);

export type CorrectedReply = Pick<
  GivenReply,
  'at' | 'told' | 'address' | 'name' | 'body' | 'lines' | 'marks' | 'words'
>;
/** `proven`: by the link that was mailed to the address. Without it a contact that was there before stays as it is. */
export const correctReply = (tx: Tx, id: string, given: CorrectedReply, proven: boolean) =>
  tx.raw('SELECT correct_reply(?, ?, ?)', [id, JSON.stringify(given), proven]);

/** Erases all that is told of the sender, and what was noted; answers with the id of the lead, or null where nothing was there. */
export const eraseReply = async (tx: Tx, id: string, proven: boolean, at: Date): Promise<string | null> =>
  (await tx.raw<{ rows: { gone: string | null }[] }>('SELECT erase_reply(?, ?, ?) AS gone', [id, proven, at])).rows[0]!
    .gone;

/** Who a card's replies go to: the member whose record it is (`own`), else an owner. */
export type Holder = { id: string; name: string; email: string; confirmed: boolean; own: boolean };

/** Counts who asks, and tells whom a card's replies go to; null where nobody is there. */
export async function beginReply(
  tx: Tx,
  cardId: string,
  asked: { key: string; ends: Date }[],
): Promise<(Holder & { counts: number[] }) | null> {
  const { rows } = await tx.raw<{ rows: (Holder & { counts: number[] })[] }>('SELECT * FROM begin_reply(?, ?)', [
    cardId,
    JSON.stringify(asked),
  ]);
  return rows[0] ?? null;
}

export const holderOfCard = (tx: Tx, cardId: string): Promise<Holder | null> => beginReply(tx, cardId, []);

/** Who takes what nobody in particular has: an owner. */
export const heirOfAll = (tx: Tx): Promise<{ id: string } | undefined> =>
  tx('users').where({ role: 'owner', left_at: null }).whereNot({ name: '' }).orderBy('id').first('id');
