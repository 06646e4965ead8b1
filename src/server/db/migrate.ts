import { Logger, runMigrations } from 'graphile-worker';
import knex, { type Knex } from 'knex';
import { applicationRole } from '@/server/env';

/** The queue's library tells of every job on the console; our log has what matters. */
export const quietQueue = new Logger(() => () => undefined);

const asOwner = (databaseUrl: string) => knex({ client: 'pg', connection: databaseUrl, pool: { min: 0, max: 2 } });

/**
 * Brings a database up to date as its owner and makes the role that the application runs as. Several processes may call
 * this at once: an advisory lock lets one work and the others wait.
 */
export async function migrate(
  databaseUrl: string,
  secret: string,
  migrationSource: Knex.MigrationSource<unknown>,
): Promise<string[]> {
  const owner = asOwner(databaseUrl);
  try {
    return await owner.transaction(async (tx) => {
      await tx.raw(`SELECT pg_advisory_xact_lock(hashtext('heathland migrations'))`);
      // The queue's own tables, by its library, on a connection of its own while the lock is held.
      await runMigrations({ connectionString: databaseUrl, logger: quietQueue });
      const [, applied] = (await tx.migrate.latest({ migrationSource, disableTransactions: true })) as [
        number,
        string[],
      ];
      const { name, password } = applicationRole(databaseUrl, secret);
      await tx.raw(
        `DO $$ BEGIN IF NOT EXISTS (SELECT FROM pg_roles WHERE rolname = '${name}') THEN CREATE ROLE ${name} LOGIN INHERIT IN ROLE heathland_app; END IF; END $$`,
      );
      // ALTER ROLE takes no parameters; the password is base64url and holds neither quote nor backslash.
      await tx.raw(`ALTER ROLE ${name} LOGIN NOSUPERUSER NOBYPASSRLS NOCREATEDB NOCREATEROLE PASSWORD '${password}'`);
      return applied;
    });
  } finally {
    await owner.destroy();
  }
}

/** Takes every migration back, last first; for tests and for a start over. */
export async function migrateDown(databaseUrl: string, migrationSource: Knex.MigrationSource<unknown>): Promise<void> {
  const owner = asOwner(databaseUrl);
  try {
    await owner.migrate.rollback({ migrationSource }, true);
  } finally {
    await owner.destroy();
  }
}
