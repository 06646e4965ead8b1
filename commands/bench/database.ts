import { asOwner } from '../cluster/databases';

export const countOf = (databaseUrl: string, sql: string, values: unknown[] = []): Promise<number> =>
  asOwner(databaseUrl, async (client) => Number((await client.query<{ count: string }>(sql, values)).rows[0]!.count));

export const pause = (ms: number) => new Promise<void>((resolve) => setTimeout(resolve, ms));

/** Waits until what came in is sorted into the events that reports read. */
export async function settled(databaseUrl: string): Promise<void> {
  for (let tries = 0; tries < 100; tries += 1) {
    if ((await countOf(databaseUrl, 'SELECT count(*) FROM event_inbox')) === 0) return;
    await pause(200);
  }
}
