import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import type { Client } from 'pg';
import { asOwner } from '../cluster/databases';
import { needPostgresClient } from '../packages';
import { Stop } from '../stop';
import { addFiles, inScratch, runProgram, sha256, storeFiles, unpackArchive, writeArchive, type Manifest } from './tar';

const DUMP = 'database.dump';

/** What is to be forgotten does not go in: whoever finds an archive signs in with nothing of it and tells no visitor from another. */
const NOT_IN = [
  'visitor_secrets',
  'sessions',
  'directory_previews',
  'rate_counts',
  'job_workers',
  'known_secrets',
  'outbox',
  'account_links',
];

/** Every column that names a file of the store, by its type, so that no table can be forgotten. */
const COLUMNS = `SELECT table_name AS "table", column_name AS "column" FROM information_schema.columns
  WHERE table_schema = 'public' AND domain_name = 'stored_file' ORDER BY 1, 2`;

/** The hashes of all files that rows name, as one reading of the database sees them. */
async function filesNamed(client: Client): Promise<string[]> {
  const { rows } = await client.query<{ table: string; column: string }>(COLUMNS);
  const all = rows.map(
    ({ table, column }) => `SELECT "${column}" AS hash FROM public."${table}" WHERE "${column}" IS NOT NULL`,
  );
  if (all.length === 0)
    throw new Stop(
      'No column of this database names files: it is none of ours, or of an older version. Start the application once.',
    );
  return (await client.query<{ hash: string }>(all.join(' UNION '))).rows.map(({ hash }) => hash);
}

/** Rows of every table of ours that goes into an archive. */
export async function countRows(client: Client): Promise<Record<string, number>> {
  const { rows: tables } = await client.query<{ name: string }>(
    `SELECT tablename AS name FROM pg_tables WHERE schemaname = 'public' ORDER BY 1`,
  );
  const counted: Record<string, number> = {};
  for (const { name } of tables.filter((each) => !NOT_IN.includes(each.name))) {
    const { rows } = await client.query<{ count: string }>(`SELECT count(*) FROM public."${name}"`);
    counted[name] = Number(rows[0]!.count);
  }
  return counted;
}

/** A program of PostgreSQL reads no server that is newer than itself. */
async function refuseOlderPrograms(bin: string, client: Client): Promise<void> {
  const { rows } = await client.query<{ version: number }>(
    `SELECT current_setting('server_version_num')::int / 10000 AS version`,
  );
  const { version } = rows[0]!;
  const own = Number(/\/(\d+)\/bin$/.exec(bin)?.[1] ?? version);
  if (own < version)
    throw new Stop(`pg_dump ${own} cannot read PostgreSQL ${version}: install postgresql-client-${version} here.`);
}

/**
 * Writes database and files into one tar archive, while people work. The database comes first, as one snapshot; files are
 * named by their content and never changed, so all that the snapshot names are there afterwards.
 */
export async function makeArchive(
  databaseUrl: string,
  archive: string,
  now: Date,
): Promise<{ files: number; bytes: number }> {
  const bin = needPostgresClient();
  return inScratch(async (folder) => {
    // Dump and names of files are of one snapshot: what is taken away meanwhile was still there for both.
    const [hashes, migrations, rows] = await asOwner(databaseUrl, async (client) => {
      await client.query('BEGIN ISOLATION LEVEL REPEATABLE READ READ ONLY');
      await refuseOlderPrograms(bin, client);
      const { rows: snapshot } = await client.query<{ id: string }>('SELECT pg_export_snapshot() AS id');
      const without = NOT_IN.map((table) => `--exclude-table-data=public.${table}`);
      const dump = [
        '--format=custom',
        '--no-owner',
        `--snapshot=${snapshot[0]!.id}`,
        ...without,
        `--file=${path.join(folder, DUMP)}`,
      ];
      runProgram(`${bin}/pg_dump`, dump, databaseUrl);
      const applied = await client.query<{ name: string }>('SELECT name FROM knex_migrations ORDER BY id');
      const names = applied.rows.map(({ name }) => name);
      return [await filesNamed(client), names, await countRows(client)] as const;
    });
    const manifest: Manifest = { format: 1, made: now.toISOString(), migrations, rows, files: {} };
    manifest.files[DUMP] = await sha256(path.join(folder, DUMP));
    const bytes = await addFiles(folder, manifest, hashes, (hash) => isNamedStill(databaseUrl, hash));
    writeArchive(folder, archive, manifest);
    return { files: hashes.length, bytes };
  });
}

const isNamedStill = (databaseUrl: string, hash: string): Promise<boolean> =>
  asOwner(databaseUrl, async (client) => (await filesNamed(client)).includes(hash));

/** What was there before waits under these names until what was restored is known to work. */
const BEFORE = 'heathland_before';
const SCHEMAS = ['public', 'graphile_worker'];
/** Extensions stay where they are: other schemas than ours may use them. */
const EXTENSIONS = 'heathland_extensions';
const ROLE = `DO $$ BEGIN CREATE ROLE heathland_app NOLOGIN; EXCEPTION WHEN duplicate_object OR unique_violation THEN NULL; END $$;`;

const moveAside = `
  ${SCHEMAS.map((schema) => `DROP SCHEMA IF EXISTS ${BEFORE}_${schema} CASCADE;`).join('\n')}
  ${SCHEMAS.map(
    (schema) =>
      `DO $$ BEGIN IF to_regnamespace('${schema}') IS NOT NULL THEN ALTER SCHEMA ${schema} RENAME TO ${BEFORE}_${schema}; END IF; END $$;`,
  ).join('\n')}
  CREATE SCHEMA public;
  CREATE SCHEMA IF NOT EXISTS ${EXTENSIONS};
  ${ROLE}`;
const moveBack = SCHEMAS.map(
  (schema) =>
    `DROP SCHEMA IF EXISTS ${schema} CASCADE;
     DO $$ BEGIN IF to_regnamespace('${BEFORE}_${schema}') IS NOT NULL THEN ALTER SCHEMA ${BEFORE}_${schema} RENAME TO ${schema}; END IF; END $$;`,
).join('\n');
const forgetBefore = SCHEMAS.map((schema) => `DROP SCHEMA IF EXISTS ${BEFORE}_${schema} CASCADE;`).join('\n');

/**
 * Restores an archive into a database and the file store, after all of it was checked. The database must be empty, or
 * `replace` says that what is in it goes. It is built beside what is there and swapped with it in one transaction; `upgrade` then
 * brings it up to date, and where that or anything before it fails, what was there is there again.
 */
export async function restoreArchive(
  databaseUrl: string,
  archive: string,
  replace: boolean,
  upgrade: () => Promise<void>,
): Promise<{ files: number; made: string; rows: Record<string, number> }> {
  const bin = needPostgresClient();
  return inScratch(async (folder) => {
    const manifest = await unpackArchive(archive, folder);
    if (!(DUMP in manifest.files))
      throw new Stop('This is the archive of one organisation: ./heathland organisation take-in FILE');
    const place = (name: string) => path.join(folder, name);
    // As statements, so that they run in the transaction that swaps; the schemas themselves are made there.
    runProgram(`${bin}/pg_restore`, ['--no-owner', `--file=${place('restore.sql')}`, place(DUMP)]);
    writeFileSync(
      place('restore.sql'),
      readFileSync(place('restore.sql'), 'utf8').replace(
        new RegExp(`^CREATE SCHEMA (public|${EXTENSIONS});$`, 'gm'),
        '',
      ),
    );
    writeFileSync(place('aside.sql'), moveAside);
    await asOwner(databaseUrl, async (client) => {
      const { rows } = await client.query<{ full: boolean }>(`SELECT to_regclass('public.users') IS NOT NULL AS full`);
      if (rows[0]!.full && !replace)
        throw new Stop(
          'The database holds an installation already. With --replace it is dropped and the archive takes its place.',
        );
    });
    const count = await storeFiles(folder, manifest);
    const swap = ['--quiet', '--no-psqlrc', '--single-transaction', '--set=ON_ERROR_STOP=1', '--output=/dev/null'];
    runProgram(`${bin}/psql`, [...swap, `--file=${place('aside.sql')}`, `--file=${place('restore.sql')}`], databaseUrl);
    try {
      await upgrade();
    } catch (error) {
      await asOwner(databaseUrl, (client) => client.query(`BEGIN; ${moveBack} COMMIT`));
      throw new Stop(
        `What was restored could not be brought up to date (${error instanceof Error ? error.name : 'unknown'}). What was there before is there again.`,
      );
    }
    await asOwner(databaseUrl, (client) => client.query(forgetBefore));
    return { files: count, made: manifest.made, rows: manifest.rows ?? {} };
  });
}
