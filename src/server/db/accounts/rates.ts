import type { Knex } from 'knex';

/** Counts one request of an asker within the window that ends at `ends`, and answers with how many there were. */
export async function countRequest(db: Knex, keyHash: Buffer, ends: Date): Promise<number> {
  const { rows } = await db.raw<{ rows: { count: number }[] }>('SELECT count_request(?, ?) AS count', [keyHash, ends]);
  return rows[0]!.count;
}

/** Windows that have ended. */
export const forgetEndedWindows = (db: Knex, now: Date) => db.raw('SELECT forget_ended_windows(?)', [now]);
