import type { Knex } from 'knex';

/** Counts one request of an asker within the window that ends at `ends`, and answers with how many there were. */
export async function countRequest(db: Knex, keyHash: Buffer, ends: Date): Promise<number> {
  const { rows } = await db.raw<{ rows: { count: number }[] }>(
    `INSERT INTO rate_counts (key_hash, ends_at, count) VALUES (?, ?, 1)
     ON CONFLICT (key_hash, ends_at) DO UPDATE SET count = rate_counts.count + 1 RETURNING count`,
    [keyHash, ends],
  );
  return rows[0]!.count;
}

export const forgetRequests = (db: Knex, keyHash: Buffer) => db('rate_counts').where({ key_hash: keyHash }).delete();

/** Windows that have ended. */
export const forgetEndedWindows = (db: Knex, now: Date) => db('rate_counts').where('ends_at', '<', now).delete();
