import { createHash, randomUUID } from 'node:crypto';
import { open, unlink, type FileHandle } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { setTimeout } from 'node:timers/promises';
import { pack, type Pack } from 'tar-stream';
import { Refusal } from '@/core/errors';
import type { Clock } from '@/server/clock';
import {
  appliedMigrations,
  fileColumns,
  organisationTables,
  type Ask,
  type OrganisationTable,
} from '@/server/db/organisation-rows';
import { inSnapshot, inTenantWithDeleted, type Tx } from '@/server/db/pool';
import { files } from '@/server/files';
import { log } from '@/server/log';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise } from '@/server/services/accounts/authorise';
import { refuseStale } from '@/server/services/accounts/fresh';

/** With what somebody signs in, which stays here: whoever finds the archive must not be able to try passwords on it. */
const NOT_TOLD = new Set(['recovery_codes']);
const NO_SECRETS = { password_hash: '!', totp_secret: null, totp_since: null, totp_step: 0 };

/** Rows are read in pieces of about so many bytes, however long a row is. */
const PIECE = 500_000;
const FIRST_ROWS = 4;
const MOST_ROWS = 1_000;
/** So many are read from the database at a time in a process; each holds one of its connections for as long as it reads. */
const READ_AT_ONCE = 2;
let reading = 0;

/** Rows of a table that lie in a file, their bytes and SHA-256. */
type Spooled = { name: string; file: FileHandle; bytes: number; hash: string };
type Read = { migrations: string[]; tables: Spooled[]; hashes: string[] };

/**
 * Everything of an organisation as one tar archive of open formats, made while it is sent: JSON lines for each table, the files that they
 * name by their SHA-256, and last a manifest, so that one which was cut off is none. Without passwords and second factors. The database
 * is read first and let go before anything leaves, however slowly that is. Errors: NOT_ALLOWED, PASSWORD_STALE, TOO_BUSY.
 */
export async function takeAlong(
  actor: Actor,
  clock: Clock,
): Promise<{ name: string; bytes: ReadableStream<Uint8Array> }> {
  authorise(actor, 'organisation.export');
  refuseStale(actor, clock);
  if (reading >= READ_AT_ONCE) throw new Refusal({ code: 'TOO_BUSY', seconds: 10 });
  const { organisationId } = actor;
  await inTenantWithDeleted(organisationId, (tx) =>
    recordAudit(tx, actor, 'organisation.exported', { kind: 'organisation', id: organisationId }, clock),
  );
  const made = new Date(clock.now()).toISOString();
  return { name: `heathland-${made.slice(0, 10)}.tar`, bytes: streamed(archiveOf(organisationId, made)) };
}

const streamed = (pieces: AsyncGenerator<Buffer>): ReadableStream<Uint8Array> =>
  Readable.toWeb(Readable.from(pieces)) as ReadableStream<Uint8Array>;

async function* archiveOf(organisation: string, made: string): AsyncGenerator<Buffer> {
  const spools: FileHandle[] = [];
  const archive = pack();
  const filled = fill(archive, organisation, made, spools).catch((error: Error) => {
    // Whoever went away has destroyed it already.
    if (!archive.destroyed) log.fault(error, { organisation }, 'an archive could not be made to its end');
    archive.destroy(error);
  });
  try {
    for await (const piece of archive) yield piece as Buffer;
  } finally {
    archive.destroy();
    await filled;
    await Promise.all(spools.map((file) => file.close()));
  }
}

async function fill(archive: Pack, organisation: string, made: string, spools: FileHandle[]): Promise<void> {
  const mtime = new Date(made);
  const { migrations, tables, hashes } = await readRows(organisation, spools);
  const told: Record<string, string> = {};
  const add = async (name: string, size: number, bytes: Readable) => {
    await pipeline(bytes, archive.entry({ name, size, mtime, mode: 0o600 }));
  };
  for (const { name, file, bytes, hash } of tables) {
    await add(name, bytes, file.createReadStream({ start: 0, autoClose: false }));
    told[name] = hash;
  }
  for (const hash of hashes) {
    const size = await files().size(hash);
    // What an import has forgotten meanwhile is named no longer.
    const bytes = size === null ? null : await files().part(hash, 0, Math.max(0, size - 1));
    if (size === null || !bytes) continue;
    const name = `files/${hash.slice(0, 2)}/${hash}`;
    await add(name, size, bytes);
    told[name] = hash;
  }
  const manifest = JSON.stringify({ format: 1, made, migrations, files: told, organisation }, null, 2);
  archive.entry({ name: 'manifest.json', mtime, mode: 0o600 }, manifest);
  archive.finalize();
}

/** Reads all rows into files, in one snapshot. */
async function readRows(organisation: string, spools: FileHandle[]): Promise<Read> {
  while (reading >= READ_AT_ONCE) await setTimeout(200);
  reading += 1;
  try {
    return await inSnapshot(organisation, async (tx) => {
      const ask: Ask = async <T>(statement: string) => (await tx.raw<{ rows: T[] }>(statement)).rows;
      const columns = await fileColumns(ask);
      const hashes = new Set<string>();
      const tables: Spooled[] = [];
      for (const table of await organisationTables(ask)) {
        if (NOT_TOLD.has(table.name)) continue;
        const file = await nameless();
        spools.push(file);
        tables.push(await spool(tx, table, file, columns.get(table.name) ?? [], hashes));
      }
      return { migrations: await appliedMigrations(ask), tables, hashes: [...hashes] };
    });
  } finally {
    reading -= 1;
  }
}

/** A file that nobody else can open and that goes with this process, however it ends. */
async function nameless(): Promise<FileHandle> {
  const place = path.join(tmpdir(), `heathland-along-${process.pid}-${randomUUID()}`);
  const file = await open(/* turbopackIgnore: true */ place, 'wx+', 0o600);
  await unlink(place);
  return file;
}

async function spool(
  tx: Tx,
  { name, key }: OrganisationTable,
  file: FileHandle,
  columns: string[],
  hashes: Set<string>,
): Promise<Spooled> {
  const sum = createHash('sha256');
  let [bytes, count, most] = [0, 0, FIRST_ROWS];
  const told = name === 'users' ? `(to_jsonb(t) || '${JSON.stringify(NO_SECRETS)}')` : 'to_json(t)';
  // The database writes the lines itself: nothing of them is taken apart on this thread.
  await tx.raw(
    `DECLARE told NO SCROLL CURSOR FOR
       SELECT ${told}::text AS line, ARRAY[${columns.map((column) => `t."${column}"::text`).join()}]::text[] AS files
       FROM public."${name}" t WHERE "${key}" = current_setting('heathland.organisation')::uuid`,
  );
  for (;;) {
    const { rows } = await tx.raw<{ rows: { line: string; files: (string | null)[] }[] }>(`FETCH ${most} FROM told`);
    if (rows.length === 0) break;
    const piece = Buffer.from(rows.map(({ line }) => `${line}\n`).join(''));
    for (const hash of rows.flatMap((row) => row.files)) if (hash) hashes.add(hash);
    sum.update(piece);
    await file.appendFile(piece);
    bytes += piece.length;
    count += rows.length;
    most = Math.max(1, Math.min(MOST_ROWS, Math.floor((count / bytes) * PIECE)));
  }
  await tx.raw('CLOSE told');
  return { name: `rows/${name}.jsonl`, file, bytes, hash: sum.digest('hex') };
}
