import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import type { Client } from 'pg';
import { appliedMigrations, fileColumns, organisationTables, type Ask } from '../../src/server/db/organisation-rows';
import { asOwner } from '../cluster/databases';
import { Stop } from '../stop';
import { addFiles, inScratch, sha256, storeFiles, unpackArchive, writeArchive, type Manifest } from './tar';

const asking =
  (client: Client): Ask =>
  async <T>(statement: string) =>
    (await client.query(statement)).rows as T[];

/** Columns that the database fills in itself. */
const generated = async (client: Client, table: string): Promise<Set<string>> =>
  new Set(
    (
      await client.query<{ name: string }>(
        `SELECT column_name AS name FROM information_schema.columns
         WHERE table_schema = 'public' AND table_name = $1 AND (is_identity = 'YES' OR is_generated = 'ALWAYS')`,
        [table],
      )
    ).rows.map(({ name }) => name),
  );

/**
 * Writes everything of one organisation into a tar archive of open formats: a manifest, a file of JSON lines a table, and the files that
 * they name by their SHA-256. Passwords stay hashes. What is deleted and not yet erased stays here.
 */
export async function exportOrganisation(
  databaseUrl: string,
  organisation: string,
  archive: string,
  now: Date,
): Promise<{ rows: number; files: number }> {
  return inScratch(async (folder) => {
    mkdirSync(path.join(folder, 'rows'));
    return asOwner(databaseUrl, async (client) => {
      await client.query('BEGIN ISOLATION LEVEL REPEATABLE READ READ ONLY');
      const manifest: Manifest = {
        format: 1,
        made: now.toISOString(),
        migrations: await appliedMigrations(asking(client)),
        files: {},
        organisation,
      };
      let rows = 0;
      const hashes = new Set<string>();
      const columns = await fileColumns(asking(client));
      for (const { name, key } of await organisationTables(asking(client))) {
        const found = await client.query<{ row: Record<string, unknown> }>(
          `SELECT to_json(t) AS row FROM public."${name}" t WHERE "${key}" = $1`,
          [organisation],
        );
        if (name === 'organisations' && found.rows.length === 0)
          throw new Stop('There is no such organisation. ./heathland organisation lists them.');
        for (const { row } of found.rows)
          for (const column of columns.get(name) ?? []) if (row[column]) hashes.add(String(row[column]));
        const file = `rows/${name}.jsonl`;
        writeFileSync(path.join(folder, file), found.rows.map(({ row }) => `${JSON.stringify(row)}\n`).join(''));
        manifest.files[file] = await sha256(path.join(folder, file));
        rows += found.rows.length;
      }
      await addFiles(folder, manifest, [...hashes], () => Promise.resolve(true));
      writeArchive(folder, archive, manifest);
      return { rows, files: hashes.size };
    });
  });
}

/**
 * Takes the archive of one organisation into an installation that is of the same version and knows none of its ids, addresses, codes
 * and mail addresses: all of it or nothing. What it gives out from then on is the same as where it came from.
 */
export async function takeInOrganisation(
  databaseUrl: string,
  archive: string,
): Promise<{ organisation: string; rows: number; files: number }> {
  return inScratch(async (folder) => {
    const manifest = await unpackArchive(archive, folder);
    const { organisation } = manifest;
    if (!organisation) throw new Stop('This is the backup of an installation: ./heathland restore FILE');
    return asOwner(databaseUrl, async (client) => {
      const here = await appliedMigrations(asking(client));
      if (here.join() !== manifest.migrations.join())
        throw new Stop(`The archive is of another version than this installation (${manifest.migrations.at(-1)}).`);
      const files = await storeFiles(folder, manifest);
      let rows = 0;
      try {
        await client.query('BEGIN');
        for (const { name, key } of await organisationTables(asking(client))) {
          const file = path.join(folder, 'rows', `${name}.jsonl`);
          if (!existsSync(file)) continue;
          const lines = readFileSync(file, 'utf8').split('\n').filter(Boolean);
          if (lines.length === 0) continue;
          // Whoever made the archive must not get rows into somebody else's organisation.
          if (lines.some((line) => (JSON.parse(line) as Record<string, unknown>)[key] !== organisation))
            throw new Stop('The archive holds rows of another organisation. Nothing was taken in.');
          const own = await generated(client, name);
          const columns = Object.keys(JSON.parse(lines[0]!) as object)
            .filter((column) => !own.has(column))
            .map((column) => client.escapeIdentifier(column))
            .join(', ');
          await client.query(
            `INSERT INTO public."${name}" (${columns}) SELECT ${columns} FROM json_populate_recordset(NULL::public."${name}", $1)`,
            [`[${lines.join(',')}]`],
          );
          rows += lines.length;
        }
        await client.query('COMMIT');
      } catch (error) {
        await client.query('ROLLBACK');
        if (error instanceof Stop) throw error;
        const { code, constraint } = error as { code?: string; constraint?: string };
        if (code !== '23505') throw error;
        throw new Stop(`Something of it is in this installation already (${constraint}). Nothing was taken in.`);
      }
      return { organisation, rows, files };
    });
  });
}
