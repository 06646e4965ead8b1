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
import { Stop } from '../stop';

/** What stands in an archive beside its files: read first when it is taken in. */
export type Manifest = {
  format: 1;
  made: string;
  migrations: string[];
  /** Rows of each table that went in; not told by releases of before. */
  rows?: Record<string, number>;
  files: Record<string, string>;
  /** Of one organisation alone. */
  organisation?: string;
};

export const MANIFEST = 'manifest.json';

export async function sha256(file: string): Promise<string> {
  const hash = createHash('sha256');
  for await (const chunk of createReadStream(file)) hash.update(chunk as Buffer);
  return hash.digest('hex');
}

/** Runs a program of PostgreSQL or tar; its password goes by the environment and stands in no list of processes. */
export function runProgram(program: string, args: string[], databaseUrl?: string): string {
  const url = databaseUrl ? new URL(databaseUrl) : null;
  const access = url
    ? {
        PGHOST: url.hostname.replace(/^\[|\]$/g, ''),
        PGPORT: url.port || '5432',
        PGUSER: decodeURIComponent(url.username),
        PGPASSWORD: decodeURIComponent(url.password),
        PGDATABASE: decodeURIComponent(url.pathname.slice(1)),
        ...of(url, 'sslmode', 'PGSSLMODE'),
        ...of(url, 'sslrootcert', 'PGSSLROOTCERT'),
      }
    : {};
  const done = spawnSync(program, args, { env: { ...process.env, ...access }, encoding: 'utf8', maxBuffer: 64e6 });
  if (/No space left on device|Wrote only \d+ of/.test(done.stderr))
    throw new Stop(`The disk is full; ${path.basename(program)} ended.`);
  if (done.status !== 0) throw new Stop(`${path.basename(program)} failed:\n${done.stderr.slice(-1_500)}`);
  return done.stdout;
}

/** A parameter of a connection as PostgreSQL's own programs are told of it, where it is given. */
const of = (url: URL, parameter: string, name: string): Record<string, string> => {
  const value = url.searchParams.get(parameter);
  return value ? { [name]: value } : {};
};

/** Work in a folder that only this user may enter, and that goes with it. */
export const inScratch = async <T>(work: (folder: string) => Promise<T>): Promise<T> => {
  const folder = mkdtempSync(path.join(tmpdir(), 'heathland-archive-'));
  chmodSync(folder, 0o700);
  try {
    return await work(folder);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
};

/**
 * Puts files of the store beside what a folder holds already; `isNamed` tells of one that is missing whether it still should be there.
 * Answers with their bytes together.
 */
export async function addFiles(
  folder: string,
  manifest: Manifest,
  hashes: string[],
  isNamed: (hash: string) => Promise<boolean>,
): Promise<number> {
  let bytes = 0;
  for (const hash of hashes) {
    const content = await files().get(hash);
    // An import whose contacts came in meanwhile has forgotten its file.
    if (!content && (await isNamed(hash)))
      throw new Stop(`The file ${hash} is named in the database but is not in the store. Nothing was written.`);
    if (!content) continue;
    const name = `files/${hash.slice(0, 2)}/${hash}`;
    mkdirSync(path.join(folder, path.dirname(name)), { recursive: true });
    writeFileSync(path.join(folder, name), content);
    manifest.files[name] = hash;
    bytes += content.length;
  }
  return bytes;
}

/** Writes a folder as a tar archive, which appears under its name only when it is complete, for its owner's eyes alone. */
export function writeArchive(folder: string, archive: string, manifest: Manifest): void {
  writeFileSync(path.join(folder, MANIFEST), JSON.stringify(manifest, null, 2));
  const unfinished = `${archive}.unfinished`;
  const members = [MANIFEST, ...new Set(Object.keys(manifest.files).map((name) => name.split('/')[0]!))];
  try {
    writeFileSync(unfinished, '', { mode: 0o600 });
    runProgram('tar', ['--create', '--file', unfinished, '--directory', folder, ...members]);
    renameSync(unfinished, archive);
  } finally {
    rmSync(unfinished, { force: true });
  }
}

/** Unpacks an archive into a folder; answers with its manifest once every file was compared with its hash. */
export async function unpackArchive(archive: string, folder: string): Promise<Manifest> {
  if (!existsSync(archive)) throw new Stop(`There is no file ${archive}.`);
  refuseOddMembers(path.resolve(archive));
  runProgram('tar', ['--extract', '--file', path.resolve(archive), '--directory', folder, '--no-same-owner']);
  return checkedManifest(folder);
}

/** Puts an archive's files into the store; they are named by their content and change nothing that is there. */
export async function storeFiles(folder: string, manifest: Manifest): Promise<number> {
  const names = Object.keys(manifest.files).filter((name) => name.startsWith('files/'));
  for (const name of names) await files().put(readFileSync(path.join(folder, name)));
  return names.length;
}

/** Files and folders below the archive's own place are all that it may hold: a link would lead what is unpacked elsewhere. */
function refuseOddMembers(archive: string): void {
  for (const line of runProgram('tar', ['--list', '--verbose', '--file', archive]).split('\n').filter(Boolean)) {
    const name = /^[-d]\S+\s+\S+\s+\d+\s+\S+\s+\S+\s(.*)$/.exec(line)?.[1];
    if (
      !name ||
      !/^(manifest\.json|database\.dump|rows\/(?:[a-z_]+\.jsonl)?|files\/(?:[0-9a-f]{2}\/(?:[0-9a-f]{64})?)?)$/.test(
        name,
      )
    )
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
