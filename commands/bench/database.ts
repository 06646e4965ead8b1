import { asOwner } from '../cluster/databases';

/** What a statement answers with, by its owner: rows of every tenant. */
export const rowsOf = <T extends object>(databaseUrl: string, sql: string, values: unknown[] = []): Promise<T[]> =>
  asOwner(databaseUrl, async (client) => (await client.query<T>(sql, values)).rows);

export const countOf = async (databaseUrl: string, sql: string, values: unknown[] = []): Promise<number> =>
  Number((await rowsOf<{ count: string }>(databaseUrl, sql, values))[0]!.count);

export const pause = (ms: number) => new Promise<void>((resolve) => setTimeout(resolve, ms));

/** Waits until what came in is sorted into the events that reports read. */
export async function settled(databaseUrl: string): Promise<void> {
  for (let tries = 0; tries < 100; tries += 1) {
    if ((await countOf(databaseUrl, 'SELECT count(*) FROM event_inbox')) === 0) return;
    await pause(200);
  }
}
