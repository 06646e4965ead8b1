import { migrationSource } from '../migrations';
import { migrate } from '../src/server/db/schema/migrate';
import { rolesOf } from '../src/server/env';
import { restoreArchive } from './archive/archive';
import { drill } from './archive/drill';
import { withInstallation } from './archive/installation';
import { asOwner } from './cluster/databases';
import { fromWhereCalled, takeLock } from './place';
import { say, Stop } from './stop';

/** An archive back into the installation, checked before anything is changed. */
export async function run(args: string[]): Promise<number> {
  const [replace, tries] = ['--replace', '--drill'].map((word) => args.includes(word));
  const [named, ...rest] = args.filter((word) => word !== '--replace' && word !== '--drill');
  if (!named || rest.length > 0 || (replace && tries))
    throw new Stop('Say which archive: ./heathland restore FILE [--replace], or --drill to try it beside everything');
  const file = fromWhereCalled(named);
  if (tries) return drill(file);
  // A demo that runs from this checkout would go on with what it remembers of the database before.
  const release = process.env.DATABASE_URL ? () => undefined : takeLock('start', './heathland restore');
  return withInstallation(async (databaseUrl, secret) => {
    await refuseRunning(databaseUrl);
    let applied: string[] = [];
    const { files, made } = await restoreArchive(databaseUrl, file, replace ?? false, async () => {
      applied = await migrate(databaseUrl, secret, migrationSource);
    });
    say(`Restored the archive of ${made}: the database, and ${files} files.`);
    if (applied.length > 0) say(`Brought it up to date: ${applied.join(', ')}`);
    return 0;
  }).finally(release);
}

/** What is remembered of an installation by processes that go on would be shown and written beside what was restored. */
async function refuseRunning(databaseUrl: string): Promise<void> {
  const roles = rolesOf(decodeURIComponent(new URL(databaseUrl).pathname.slice(1)));
  const { rows } = await asOwner(databaseUrl, (client) =>
    client.query<{ open: number }>(
      'SELECT count(*)::int AS open FROM pg_stat_activity WHERE datname = current_database() AND starts_with(usename, $1)',
      [roles],
    ),
  );
  const open = rows[0]?.open ?? 0;
  if (open > 0)
    throw new Stop(
      `Heathland runs on this database: ${open} of its connections are open. Stop its processes first; nothing was changed.`,
    );
}
