import { randomBytes } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { ensureDatabase, dropDatabase } from './cluster/databases';
import { openCluster, type Cluster } from './cluster/cluster';
import { say, Stop } from './stop';

export const ROOT = process.cwd();
/** Whether this is a release, which has no sources, and not a checkout. */
export const IS_RELEASE = !existsSync(path.join(ROOT, 'src'));
export const HOME = path.join(ROOT, '.heathland');

/** A secret of this checkout, made once. */
export function localSecret(): string {
  mkdirSync(HOME, { recursive: true });
  const file = path.join(HOME, 'session-secret');
  if (!existsSync(file)) writeFileSync(file, randomBytes(32).toString('base64url'), { mode: 0o600 });
  return readFileSync(file, 'utf8').trim();
}

/** The process of an earlier start in this checkout that still runs, or null. A number alone proves nothing: its program is looked at. */
function runningStart(lock: string): { pid: number; what: string } | null {
  if (!existsSync(lock)) return null;
  const [pid = '', began = '', what = ''] = readFileSync(lock, 'utf8').split('\n');
  return pid && began && beginningOf(Number(pid)) === began ? { pid: Number(pid), what } : null;
}

/** When a process began, in clock ticks since the machine started (field 22 of /proc/PID/stat); empty when there is none. */
function beginningOf(pid: number): string {
  const stat = `/proc/${pid}/stat`;
  if (!existsSync(stat)) return '';
  return (
    readFileSync(stat, 'utf8')
      .replace(/^.*\) /s, '')
      .split(' ')[19] ?? ''
  );
}

type Kind = 'start' | 'test' | 'build';
const lockOf = (kind: Kind): string => path.join(HOME, `${kind}.lock`);

/** A file as whoever called names it: `./heathland` goes to its own folder first. */
export const fromWhereCalled = (file: string): string => path.resolve(process.env.HEATHLAND_FROM ?? ROOT, file);

/** Makes sure that only one command of a kind runs in this checkout at a time. Answers with what lets the next one in. */
export function takeLock(kind: Kind, what: string): () => void {
  mkdirSync(HOME, { recursive: true });
  const lock = lockOf(kind);
  const other = runningStart(lock);
  if (other) throw new Stop(`Already running from this checkout: ${other.what} (process ${other.pid}).`);
  rmSync(lock, { force: true });
  try {
    writeFileSync(lock, `${process.pid}\n${beginningOf(process.pid)}\n${what}`, { flag: 'wx' });
  } catch {
    throw new Stop('Another start from this checkout is under way at this moment. Wait for it.');
  }
  return () => rmSync(lock, { force: true });
}

/** The same, after whoever has it. */
export async function waitForLock(kind: Kind, what: string): Promise<() => void> {
  const other = runningStart(lockOf(kind));
  if (other) say(`Waiting for ${other.what} (process ${other.pid}) …`);
  for (;;) {
    while (runningStart(lockOf(kind))) await sleep(200);
    try {
      return takeLock(kind, what);
    } catch (error) {
      // Another one that waited was quicker.
      if (!(error instanceof Stop)) throw error;
      await sleep(200);
    }
  }
}

/** The server to use: DATABASE_URL's, or a private cluster of this checkout. */
export async function openDatabase(
  database: string,
  fresh: boolean,
): Promise<{ url: string; cluster: Cluster | null }> {
  const given = process.env.DATABASE_URL;
  if (given) return { url: given, cluster: null };
  if (IS_RELEASE) throw new Stop('DATABASE_URL is not set. It says where the database of the installation is.');
  const cluster = await openCluster(ROOT, 'cluster');
  if (fresh) await dropDatabase(cluster.url('postgres'), database);
  await ensureDatabase(cluster.url('postgres'), database);
  return { url: cluster.url(database), cluster };
}
