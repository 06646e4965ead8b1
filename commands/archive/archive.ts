import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import {
  chmodSync,
  createReadStream,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  renameSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Client } from 'pg';
import { files } from '../../src/server/files';
import { asOwner } from '../cluster/databases';
import { needPostgres } from '../packages';
import { Stop } from '../stop';

/** What stands in an archive beside its files: read first when it is restored. */
type Manifest = { format: 1; made: string; migrations: string[]; files: Record<string, string> };

const DUMP = 'database.dump';
const MANIFEST = 'manifest.json';

async function sha256(file: string): Promise<string> {
  const hash = createHash('sha256');
  for await (const chunk of createReadStream(file)) hash.update(chunk as Buffer);
  return hash.digest('hex');
}

/** Runs a program of PostgreSQL or tar; its password goes by the environment and stands in no list of processes. */
function runProgram(program: string, args: string[], databaseUrl?: string): string {
  const url = databaseUrl ? new URL(databaseUrl) : null;
  const access = url
    ? {
        PGHOST: url.hostname,
        PGPORT: url.port || '5432',
        PGUSER: decodeURIComponent(url.username),
        PGPASSWORD: decodeURIComponent(url.password),
        PGDATABASE: decodeURIComponent(url.pathname.slice(1)),
      }
    : {};
  const done = spawnSync(program, args, { env: { ...process.env, ...access }, encoding: 'utf8', maxBuffer: 64e6 });
  if (done.status !== 0) throw new Stop(`${path.basename(program)} failed:\n${done.stderr.slice(-1_500)}`);
  return done.stdout;
}

/** What is to be forgotten does not go in: whoever finds an archive signs in with nothing of it and tells no visitor from another. */
const NOT_IN = ['visitor_secrets', 'sessions', 'directory_previews', 'rate_counts', 'job_workers', 'known_secrets'];

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

const inScratch = async <T>(work: (folder: string) => Promise<T>): Promise<T> => {
  const folder = mkdtempSync(path.join(tmpdir(), 'heathland-archive-'));
  chmodSync(folder, 0o700);
  try {
    return await work(folder);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
};

/**
 * Writes database and files into one tar archive, while people work. The database comes first, as one snapshot; files are
 * named by their content and never changed, so all that the snapshot names are there afterwards.
 */
export async function makeArchive(
  databaseUrl: string,
  archive: string,
  now: Date,
): Promise<{ files: number; bytes: number }> {
  const bin = needPostgres();
  return inScratch(async (folder) => {
    // Dump and names of files are of one snapshot: what is taken away meanwhile was still there for both.
    const [hashes, migrations] = await asOwner(databaseUrl, async (client) => {
      await client.query('BEGIN ISOLATION LEVEL REPEATABLE READ READ ONLY');
      const { rows } = await client.query<{ id: string }>('SELECT pg_export_snapshot() AS id');
      const without = NOT_IN.map((table) => `--exclude-table-data=public.${table}`);
      const dump = [
        '--format=custom',
        '--no-owner',
        `--snapshot=${rows[0]!.id}`,
        ...without,
        `--file=${path.join(folder, DUMP)}`,
      ];
      runProgram(`${bin}/pg_dump`, dump, databaseUrl);
      const applied = await client.query<{ name: string }>('SELECT name FROM knex_migrations ORDER BY id');
      return [await filesNamed(client), applied.rows.map(({ name }) => name)];
    });
    const manifest: Manifest = { format: 1, made: now.toISOString(), migrations, files: {} };
    manifest.files[DUMP] = await sha256(path.join(folder, DUMP));
    let bytes = 0;
    for (const hash of hashes) {
      const content = await files().get(hash);
      // An import whose contacts came in meanwhile has forgotten its file.
      if (!content && (await isNamedStill(databaseUrl, hash)))
        throw new Stop(`The file ${hash} is named in the database but is not in the store. Nothing was written.`);
      if (!content) continue;
      const name = `files/${hash.slice(0, 2)}/${hash}`;
      mkdirSync(path.join(folder, path.dirname(name)), { recursive: true });
      writeFileSync(path.join(folder, name), content);
      manifest.files[name] = hash;
      bytes += content.length;
    }
    writeFileSync(path.join(folder, MANIFEST), JSON.stringify(manifest, null, 2));
    // It appears under its name only when it is complete, for its owner's eyes alone.
    const unfinished = `${archive}.unfinished`;
    writeFileSync(unfinished, '', { mode: 0o600 });
    const members = [MANIFEST, DUMP, ...(hashes.length > 0 ? ['files'] : [])];
    runProgram('tar', ['--create', '--file', unfinished, '--directory', folder, ...members]);
    renameSync(unfinished, archive);
    return { files: hashes.length, bytes };
  });
}

const isNamedStill = (databaseUrl: string, hash: string): Promise<boolean> =>
  asOwner(databaseUrl, async (client) => (await filesNamed(client)).includes(hash));

/** Files and folders below the archive's own place are all that it may hold: a link would lead what is unpacked elsewhere. */
function refuseOddMembers(archive: string): void {
  for (const line of runProgram('tar', ['--list', '--verbose', '--file', archive]).split('\n').filter(Boolean)) {
    const name = /^[-d]\S+\s+\S+\s+\d+\s+\S+\s+\S+\s(.*)$/.exec(line)?.[1];
    if (!name || !/^(manifest\.json|database\.dump|files\/(?:[0-9a-f]{2}\/(?:[0-9a-f]{64})?)?)$/.test(name))
      throw new Stop(
        'The archive holds something that is none of ours, as a link or a place outside of it. Nothing was changed.',
      );
  }
}

/** The manifest of an unpacked archive whose every file was compared with its hash. */
async function checkedManifest(folder: string): Promise<Manifest> {
  const place = path.join(folder, MANIFEST);
  if (!existsSync(place)) throw new Stop('This is no archive of ours: it holds no manifest. Nothing was changed.');
  const manifest = JSON.parse(readFileSync(place, 'utf8')) as Manifest;
  if (manifest.format !== 1) throw new Stop('This archive is of a newer version. Nothing was changed.');
  for (const [name, wanted] of Object.entries(manifest.files)) {
    const file = path.join(folder, name);
    if (!path.resolve(file).startsWith(`${folder}${path.sep}`))
      throw new Stop('The archive names a place outside itself.');
    if (!existsSync(file) || (await sha256(file)) !== wanted)
      throw new Stop(`The archive is damaged at ${name}. Nothing was changed.`);
  }
  return manifest;
}

/** What was there before waits under these names until what was restored is known to work. */
const BEFORE = 'heathland_before';
const SCHEMAS = ['public', 'graphile_worker'];
const ROLE = `DO $$ BEGIN CREATE ROLE heathland_app NOLOGIN; EXCEPTION WHEN duplicate_object OR unique_violation THEN NULL; END $$;`;

const moveAside = `
  ${SCHEMAS.map((schema) => `DROP SCHEMA IF EXISTS ${BEFORE}_${schema} CASCADE;`).join('\n')}
  ${SCHEMAS.map(
    (schema) =>
      `DO $$ BEGIN IF to_regnamespace('${schema}') IS NOT NULL THEN ALTER SCHEMA ${schema} RENAME TO ${BEFORE}_${schema}; END IF; END $$;`,
  ).join('\n')}
  CREATE SCHEMA public; ${ROLE}`;
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
): Promise<{ files: number; made: string }> {
  const bin = needPostgres();
  if (!existsSync(archive)) throw new Stop(`There is no file ${archive}.`);
  return inScratch(async (folder) => {
    refuseOddMembers(path.resolve(archive));
    runProgram('tar', ['--extract', '--file', path.resolve(archive), '--directory', folder, '--no-same-owner']);
    const manifest = await checkedManifest(folder);
    const place = (name: string) => path.join(folder, name);
    // As statements, so that they run in the transaction that swaps; the schema itself is made there.
    runProgram(`${bin}/pg_restore`, ['--no-owner', `--file=${place('restore.sql')}`, place(DUMP)]);
    writeFileSync(
      place('restore.sql'),
      readFileSync(place('restore.sql'), 'utf8').replace(/^CREATE SCHEMA public;$/m, ''),
    );
    writeFileSync(place('aside.sql'), moveAside);
    await asOwner(databaseUrl, async (client) => {
      const { rows } = await client.query<{ full: boolean }>(`SELECT to_regclass('public.users') IS NOT NULL AS full`);
      if (rows[0]!.full && !replace)
        throw new Stop(
          'The database holds an installation already. With --replace it is dropped and the archive takes its place.',
        );
    });
    // Files are named by their content and change nothing that is there.
    let count = 0;
    for (const name of Object.keys(manifest.files)) {
      if (name === DUMP) continue;
      await files().put(readFileSync(place(name)));
      count += 1;
    }
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
    return { files: count, made: manifest.made };
  });
}
