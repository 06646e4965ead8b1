import type { Db, Tx } from '../pool';

export type InvitationRow = {
  organisation_id: string;
  user_id: string;
  record_id: string;
  language: string;
  invited_by: string | null;
  sent_at: Date;
  sent: number;
  accepted_at: Date | null;
  withdrawn_at: Date | null;
  reminded_at: Date | null;
};

export const insertInvitation = (
  tx: Tx,
  row: Pick<InvitationRow, 'organisation_id' | 'user_id' | 'record_id' | 'language' | 'invited_by' | 'sent_at'>,
) => tx('invitations').insert(row);

export const invitationForUpdate = async (tx: Tx, userId: string): Promise<InvitationRow | undefined> =>
  tx('invitations').where({ user_id: userId }).forUpdate().first();

/** Invitations of these users. */
export const invitationsOf = async (tx: Tx, users: string[]): Promise<InvitationRow[]> =>
  tx('invitations').whereIn('user_id', users);

export const updateInvitation = (
  tx: Tx,
  userId: string,
  row: Partial<
    Pick<InvitationRow, 'sent_at' | 'sent' | 'accepted_at' | 'withdrawn_at' | 'reminded_at' | 'record_id' | 'language'>
  >,
) => tx('invitations').where({ user_id: userId }).update(row);

/** Which of these users’ latest welcome could not be delivered. */
export const undelivered = async (tx: Tx, users: string[]): Promise<Set<string>> => {
  const rows: { user_id: string; failed_at: Date | null }[] = await tx('outbox')
    .where({ kind: 'welcome' })
    .whereIn('user_id', users)
    .distinctOn('user_id')
    .orderBy('user_id')
    .orderBy('created_at', 'desc')
    .select('user_id', 'failed_at');
  return new Set(rows.flatMap(({ user_id, failed_at }) => (failed_at ? [user_id] : [])));
};

/** Who was invited before an instant, in any organisation, has not come and was not reminded. */
export const dueReminders = async (db: Db, before: Date): Promise<{ organisation_id: string; user_id: string }[]> =>
  (await db.raw<{ rows: { organisation_id: string; user_id: string }[] }>('SELECT * FROM due_reminders(?)', [before]))
    .rows;

/** Whoever signs in for a record, and has not left. */
export const userOfRecord = async (tx: Tx, recordId: string): Promise<{ id: string } | undefined> =>
  tx('users').where({ own_record: recordId, left_at: null }).first('id');

/** Keeps the code that was sent to somebody, in the place of one before. */
export const keepCode = (
  tx: Tx,
  row: { organisation_id: string; user_id: string; code_hash: Buffer; expires_at: Date },
) =>
  tx('mailed_codes')
    .insert({ ...row, tries: 0 })
    .onConflict('user_id')
    .merge();

/** Counts a try at somebody's code and answers with its hash; null where there is none that holds, or it was tried too often. */
export async function tryCode(tx: Tx, userId: string, at: Date, most: number): Promise<Buffer | null> {
  const [row] = await tx('mailed_codes')
    .where({ user_id: userId })
    .where('expires_at', '>', at)
    .where('tries', '<', most)
    .update({ tries: tx.raw('tries + 1') }, ['code_hash']);
  return (row as { code_hash: Buffer } | undefined)?.code_hash ?? null;
}

/** Ends somebody's code; answers whether there was one. */
export const dropCode = async (tx: Tx, userId: string): Promise<boolean> =>
  (await tx('mailed_codes').where({ user_id: userId }).delete()) === 1;

export const forgetCodes = (db: Db, at: Date) => db.raw('SELECT forget_codes(?)', [at]);
