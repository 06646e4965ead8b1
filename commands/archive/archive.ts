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

/** The hashes of all files that rows name: pictures with their sizes, and what jobs were given. */
const HASHES = `
  SELECT hash FROM pictures UNION SELECT page_hash FROM pictures UNION SELECT file_hash FROM pictures
  UNION SELECT input->>'file' FROM jobs WHERE input ? 'file'`;

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
    runProgram(`${bin}/pg_dump`, ['--format=custom', '--no-owner', `--file=${path.join(folder, DUMP)}`], databaseUrl);
    const [hashes, migrations] = await asOwner(databaseUrl, async (client) => [
      (await client.query<{ hash: string }>(HASHES)).rows.map(({ hash }) => hash),
      (await client.query<{ name: string }>('SELECT name FROM knex_migrations ORDER BY id')).rows.map(
        ({ name }) => name,
      ),
    ]);
    const manifest: Manifest = { format: 1, made: now.toISOString(), migrations, files: {} };
    manifest.files[DUMP] = await sha256(path.join(folder, DUMP));
    let bytes = 0;
    for (const hash of hashes) {
      const content = await files().get(hash);
      if (!content)
        throw new Stop(`The file ${hash} is named in the database but is not in the store. Nothing was written.`);
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

/**
 * Restores an archive into a database and the file store, after all of it was checked. The database must be empty, or
 * `replace` says that what is in it goes.
 */
export async function restoreArchive(
  databaseUrl: string,
  archive: string,
  replace: boolean,
): Promise<{ files: number; made: string }> {
  const bin = needPostgres();
  if (!existsSync(archive)) throw new Stop(`There is no file ${archive}.`);
  return inScratch(async (folder) => {
    runProgram('tar', ['--extract', '--file', path.resolve(archive), '--directory', folder, '--no-same-owner']);
    const manifest = await checkedManifest(folder);
    runProgram(`${bin}/pg_restore`, ['--list', path.join(folder, DUMP)]);
    await asOwner(databaseUrl, async (client) => {
      const { rows } = await client.query<{ full: boolean }>(`SELECT to_regclass('public.users') IS NOT NULL AS full`);
      if (rows[0]!.full && !replace)
        throw new Stop(
          'The database holds an installation already. With --replace it is dropped and the archive takes its place.',
        );
      await client.query(
        `DROP SCHEMA IF EXISTS public CASCADE; DROP SCHEMA IF EXISTS graphile_worker CASCADE; CREATE SCHEMA public;
         DO $$ BEGIN CREATE ROLE heathland_app NOLOGIN; EXCEPTION WHEN duplicate_object OR unique_violation THEN NULL; END $$`,
      );
    });
    const database = decodeURIComponent(new URL(databaseUrl).pathname.slice(1));
    runProgram(
      `${bin}/pg_restore`,
      ['--no-owner', '--exit-on-error', '--single-transaction', `--dbname=${database}`, path.join(folder, DUMP)],
      databaseUrl,
    );
    let count = 0;
    for (const name of Object.keys(manifest.files)) {
      if (name === DUMP) continue;
      await files().put(readFileSync(path.join(folder, name)));
      count += 1;
    }
    return { files: count, made: manifest.made };
  });
}
