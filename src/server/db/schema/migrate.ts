import knex, { type Knex } from 'knex';
import { applicationRole, fingerprintOf, rolesOf } from '@/server/env';
import { asSentence, CannotStart, refuseNewer, refuseUnfit, refuseUnknown } from './cannot-start';
import { scramVerifier } from './scram';

const silent = () => undefined;
/** A database as its owner; whoever opens it destroys it. */
export const asOwner = (databaseUrl: string) =>
  knex({
    client: 'pg',
    connection: databaseUrl,
    pool: { min: 0, max: 2 },
    // Whoever asks hears of a failure; the library's own lines would repeat it outside of our log.
    log: { warn: silent, error: silent, deprecate: silent, debug: silent },
  });

/**
 * Brings a database up to date as its owner and makes the role that the application runs as with this secret. Several processes may
 * call this at once: an advisory lock lets one work and the others wait. A secret that the database does not know is taken only
 * together with one that it knows, `before`. Answers with the migrations that it made. Errors: `CannotStart`, before anything was
 * changed.
 */
export async function migrate(
  databaseUrl: string,
  secret: string,
  migrationSource: Knex.MigrationSource<unknown>,
  before?: string,
): Promise<string[]> {
  const owner = asOwner(databaseUrl);
  try {
    if (!before && (await isCurrent(owner, databaseUrl, secret, migrationSource))) return [];
    return await owner.transaction(async (tx) => {
      await tx.raw(`SELECT pg_advisory_xact_lock(hashtext('heathland migrations'))`);
      await refuseUnfit(tx);
      await refuseNewer(tx, await namesOf(migrationSource));
      await refuseUnknown(tx, secret, before);
      // The queue's own tables, by its library, on a connection of its own while the lock is held.
      const { Logger, runMigrations } = await import('graphile-worker');
      await runMigrations({ connectionString: databaseUrl, logger: new Logger(() => () => undefined) });
      const [, applied] = (await tx.migrate.latest({ migrationSource, disableTransactions: true })) as [
        number,
        string[],
      ];
      await admit(tx, databaseUrl, secret);
      if (before) await admit(tx, databaseUrl, before);
      return applied;
    });
  } catch (error) {
    throw asSentence(error);
  } finally {
    await owner.destroy();
  }
}

export const namesOf = async (source: Knex.MigrationSource<unknown>): Promise<string[]> =>
  (await source.getMigrations([])).map((each) => source.getMigrationName(each));

/**
 * Whether a database has the last migration, knows the secret and has its role, so that a process that is started again answers at
 * once. The queue's tables are looked after by whatever runs the queue.
 */
async function isCurrent(
  owner: Knex,
  databaseUrl: string,
  secret: string,
  migrationSource: Knex.MigrationSource<unknown>,
): Promise<boolean> {
  const last = (await namesOf(migrationSource)).at(-1);
  const { rows } = await owner.raw<{ rows: { there: boolean }[] }>(
    `SELECT to_regclass('known_secrets') IS NOT NULL AND to_regclass('graphile_worker.migrations') IS NOT NULL
       AND EXISTS (SELECT FROM pg_roles WHERE rolname = ? AND rolcanlogin) AS there`,
    [applicationRole(databaseUrl, secret).name],
  );
  if (!last || !rows[0]?.there) return false;
  const [newest, known] = [
    await owner('knex_migrations').orderBy('id', 'desc').first<{ name: string } | undefined>('name'),
    await owner('known_secrets')
      .where({ fingerprint: fingerprintOf(secret) })
      .first<object | undefined>('fingerprint'),
  ];
  return newest?.name === last && known !== undefined;
}

/** Notes a secret and gives it a login of its own, which owns nothing. */
async function admit(tx: Knex.Transaction, databaseUrl: string, secret: string): Promise<void> {
  await tx('known_secrets')
    .insert({ fingerprint: fingerprintOf(secret) })
    .onConflict('fingerprint')
    .ignore();
  const { name, password } = applicationRole(databaseUrl, secret);
  await tx.raw(
    `DO $$ BEGIN IF NOT EXISTS (SELECT FROM pg_roles WHERE rolname = '${name}') THEN CREATE ROLE ${name} LOGIN INHERIT IN ROLE heathland_app; END IF; END $$`,
  );
  // ALTER ROLE takes no parameters; a verifier holds neither quote nor backslash. What a role may not do it cannot from its making on, and
  // saying so once more would take a superuser.
  await tx.raw(`ALTER ROLE ${name} LOGIN PASSWORD '${scramVerifier(password)}'`);
  const { rows } = await tx.raw<{ rows: { may: boolean }[] }>(
    'SELECT rolsuper OR rolbypassrls OR rolcreaterole AS may FROM pg_roles WHERE rolname = ?',
    [name],
  );
  if (rows[0]?.may)
    throw new CannotStart(`The role ${name} may do what no application may: drop it, and it is made anew.`);
}

/** The fingerprints of the secrets that a database knows, since when. As its owner. */
export async function knownSecrets(databaseUrl: string): Promise<{ fingerprint: string; since: Date }[]> {
  const owner = asOwner(databaseUrl);
  try {
    return await owner('known_secrets').orderBy('since').select('fingerprint', 'since');
  } finally {
    await owner.destroy();
  }
}

/** Forgets a secret and takes its login away; answers false where it was not known, or is the only one. As the owner. */
export async function forgetSecret(databaseUrl: string, fingerprint: string): Promise<boolean> {
  const owner = asOwner(databaseUrl);
  try {
    return await owner.transaction(async (tx) => {
      const known = await tx('known_secrets').forUpdate().select<{ fingerprint: string }[]>('fingerprint');
      if (known.length < 2 || !known.some((row) => row.fingerprint === fingerprint)) return false;
      await tx('known_secrets').where({ fingerprint }).delete();
      const name = `${rolesOf(decodeURIComponent(new URL(databaseUrl).pathname.slice(1)))}${fingerprint}`;
      // Whoever makes roles and is no superuser ends the connections of those alone that it belongs to.
      await tx.raw(`GRANT ${name} TO CURRENT_USER`);
      await tx.raw('SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE usename = ?', [name]);
      await tx.raw(`DROP ROLE IF EXISTS ${name}`);
      return true;
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
