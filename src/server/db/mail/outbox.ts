import type { Knex } from 'knex';
import type { Tx } from '../pool';

export type OutboxRow = {
  id: string;
  organisation_id: string;
  user_id: string;
  kind: string;
  sender: string;
  recipient: string;
  message: Buffer;
  created_at: Date;
  /** After this it is of no use to anybody. */
  until: Date;
};

/** Mails of an organisation follow each other by so much, in milliseconds: a thousand of one leave room for the one of another. */
const PACE_MS = 100;

/** Puts a mail down, to be sent once this transaction holds; behind those of its organisation that wait, unless somebody waits for it. */
export async function insertMail(tx: Tx, row: OutboxRow, urgent: boolean): Promise<void> {
  const { created_at: now, organisation_id } = row;
  const last = urgent
    ? undefined
    : await tx('outbox')
        .where({ organisation_id, sent_at: null, failed_at: null })
        .max<{ max: Date | null }>('due_at as max')
        .first();
  const due_at = new Date(Math.max(now.getTime(), last?.max ? last.max.getTime() + PACE_MS : 0));
  await tx('outbox').insert({ ...row, due_at });
}

/** Puts mails down for which somebody waits, in one statement. */
export const insertUrgentMails = (tx: Tx, rows: OutboxRow[]) =>
  tx('outbox').insert(rows.map((row) => ({ ...row, due_at: row.created_at })));

/** Mails of an organisation that wait. */
export const countWaitingMail = async (tx: Tx): Promise<number> =>
  Number(
    (await tx('outbox').where({ sent_at: null, failed_at: null }).count<{ count: string }[]>('id as count'))[0]!.count,
  );

/** Of these mails those that somebody caused, or that are about their account. */
export const ownMails = async (tx: Tx, userId: string, ids: string[]): Promise<string[]> =>
  (await tx('outbox').where({ user_id: userId }).whereIn('id', ids).select<{ id: string }[]>('id')).map(({ id }) => id);

/** A mail for whoever sends; `tries` is theirs to tell what became of it. */
export type TakenMail = Pick<
  OutboxRow,
  'id' | 'organisation_id' | 'kind' | 'sender' | 'recipient' | 'message' | 'until'
> & {
  tries: number;
};

/** The next mail that is due, for so many seconds; whoever takes longer finds that another one has it. */
export const takeMail = async (db: Knex, at: Date, leaseSeconds: number): Promise<TakenMail | undefined> =>
  (await db.raw<{ rows: TakenMail[] }>('SELECT * FROM take_mail(?, make_interval(secs => ?))', [at, leaseSeconds]))
    .rows[0];

export const mailIsSent = (db: Knex, { id, tries }: TakenMail, at: Date) =>
  db.raw('SELECT mail_is_sent(?, ?, ?)', [id, tries, at]);

export const mailIsLate = (db: Knex, { id, tries }: TakenMail, again: Date, why: string) =>
  db.raw('SELECT mail_is_late(?, ?, ?, ?)', [id, tries, again, why]);

export const mailIsGivenUp = (db: Knex, { id, tries }: TakenMail, at: Date, why: string) =>
  db.raw('SELECT mail_is_given_up(?, ?, ?, ?)', [id, tries, at, why]);

/** Mails that were sent or given up before a time, and links of accounts that have ended. */
export const forgetMail = (db: Knex, before: Date, at: Date) => db.raw('SELECT forget_mail(?, ?)', [before, at]);
