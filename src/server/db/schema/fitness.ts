import type { Knex } from 'knex';
import { asSentence, refuseNewer, refuseUnfit, refuseUnknown } from './cannot-start';
import { asOwner, namesOf } from './migrate';

/** What a database says of itself; `state` in words, `connections` those that are not taken or kept for its superusers. */
export type Fitness = { version: string; state: string; connections: number; now: Date };

/**
 * Asks a database whether Heathland can be started on it with this secret, and changes nothing. Errors: `CannotStart`, and what the
 * driver says of a server that does not answer.
 */
export async function fitnessOf(
  databaseUrl: string,
  secret: string,
  migrationSource: Knex.MigrationSource<unknown>,
): Promise<Fitness> {
  const owner = asOwner(databaseUrl);
  try {
    const known = await namesOf(migrationSource);
    await refuseUnfit(owner);
    await refuseNewer(owner, known);
    await refuseUnknown(owner, secret, undefined);
    const { rows } = await owner.raw<{ rows: { version: string; left: number; now: Date }[] }>(
      `SELECT split_part(current_setting('server_version'), ' ', 1) AS version, clock_timestamp() AS now,
         current_setting('max_connections')::int - current_setting('superuser_reserved_connections')::int
           - (SELECT count(*) FROM pg_stat_activity WHERE backend_type = 'client backend')::int AS left`,
    );
    const { version, left, now } = rows[0]!;
    const made = (await owner.schema.hasTable('knex_migrations'))
      ? await owner('knex_migrations').select<{ name: string }[]>('name')
      : [];
    const missing = known.length - made.length;
    const state =
      made.length === 0
        ? 'empty: the first start makes its tables'
        : missing === 0
          ? 'up to date'
          : `${missing} migrations behind: the next start, or ./heathland migrate, brings it up to date`;
    return { version, state, connections: left, now };
  } catch (error) {
    throw asSentence(error);
  } finally {
    await owner.destroy();
  }
}
