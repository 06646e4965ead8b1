import { randomBytes } from 'node:crypto';
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { migrationSource } from '../../migrations';
import { openCluster } from '../cluster/cluster';
import { asOwner, ensureDatabase } from '../cluster/databases';
import { say } from '../stop';
import { countRows, restoreArchive } from './archive';

const DATABASE = 'heathland_drill';
/** So many published cards give out what they gave out, proven by a reader that is not ours. */
const SAMPLE = 20;

/**
 * Restores an archive into a throw-away database and file store, which touch nothing of the installation, and looks whether it is all
 * there: rows as they were counted when it was made, and what a sample of its cards give out. Exit code 1 where it is not.
 */
export async function drill(archive: string): Promise<number> {
  const began = performance.now();
  const folder = mkdtempSync(path.join(tmpdir(), 'heathland-drill-'));
  // The server of a cluster may be another user of this machine.
  chmodSync(folder, 0o711);
  const cluster = await openCluster(folder, 'cluster', { durable: false });
  try {
    await ensureDatabase(cluster.url('postgres'), DATABASE);
    const url = cluster.url(DATABASE);
    const secret = randomBytes(32).toString('base64');
    // Settings are read when they are first needed, so this is early enough.
    for (const name of Object.keys(process.env)) if (name.startsWith('S3_')) delete process.env[name];
    Object.assign(process.env, {
      ...{ DATABASE_URL: url, SESSION_SECRET: secret, FILES_DIR: path.join(folder, 'files'), LOG_LEVEL: 'silent' },
      ...{ BASE_URL: 'http://127.0.0.1', PUBLIC_URL: 'http://127.0.0.1' },
    });
    const { migrate } = await import('../../src/server/db/schema/migrate');
    const restored = await restoreArchive(url, archive, false, async () => {
      await migrate(url, secret, migrationSource);
    });
    const [different, all] = await miscounted(url, restored.rows);
    const { good, of } = await proveSample(url);
    say(`The archive of ${restored.made}, restored into a throw-away database in ${seconds(began)} s:`);
    say(
      all === 0
        ? 'rows    were not counted when it was made, by an older release'
        : `rows    ${all.toLocaleString('en-GB')} as they were counted when it was made${different.length > 0 ? `, but for ${different.join(', ')}` : ''}`,
    );
    say(`files   ${restored.files}, each as its name says`);
    say(`cards   ${good} of ${of} give out contact files that are proven`);
    say(
      'The session secret is in no archive, and a restored installation may have another one. Sessions are in none: everybody signs in anew.',
    );
    return different.length === 0 && good === of ? 0 : 1;
  } finally {
    await cluster.stop();
    rmSync(folder, { recursive: true, force: true });
  }
}

const seconds = (began: number): string => ((performance.now() - began) / 1_000).toFixed(0);

/** Tables that hold another number of rows than they did, and how many rows there are in all. */
async function miscounted(url: string, wanted: Record<string, number>): Promise<[string[], number]> {
  const found = await asOwner(url, countRows);
  const different = Object.entries(wanted)
    // Bringing it up to date notes more of them.
    .filter(([table]) => !table.startsWith('knex_migrations'))
    .flatMap(([table, count]) => (found[table] === count ? [] : [`${table} (${found[table] ?? 'none'} of ${count})`]));
  return [different, Object.values(wanted).reduce((sum, count) => sum + count, 0)];
}

async function proveSample(url: string): Promise<{ good: number; of: number }> {
  const names = await asOwner(url, async (client) => {
    const { rows } = await client.query<{ name: string }>(
      `SELECT a.name FROM directory_addresses a JOIN cards c ON c.id = a.card_id JOIN organisations o ON o.id = c.organisation_id
       WHERE a.is_current AND c.state = 'published' AND c.deleted_at IS NULL AND o.deleted_at IS NULL ORDER BY random() LIMIT $1`,
      [SAMPLE],
    );
    return rows.map(({ name }) => name);
  });
  const { proveCardAt } = await import('../../src/server/services/publishing/prove-card');
  const { closeDb } = await import('../../src/server/db/pool');
  let good = 0;
  for (const name of names) {
    const files = await proveCardAt(name).catch(() => []);
    if (files.length > 0 && files.every(({ proof }) => proof.passed)) good += 1;
  }
  await closeDb();
  return { good, of: names.length };
}
