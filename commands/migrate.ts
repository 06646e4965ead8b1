import { migrationSource } from '../migrations';
import { migrate } from '../src/server/db/schema/migrate';
import { withInstallation } from './archive/installation';
import { say, Stop } from './stop';

/** Brings the database up to date and starts nothing; processes of the release before go on with it. */
export async function run(args: string[]): Promise<number> {
  if (args.length > 0) throw new Stop('Say ./heathland migrate; it takes no words.');
  return withInstallation(async (url, secret) => {
    const applied = await migrate(url, secret, migrationSource, process.env.SESSION_SECRET_BEFORE || undefined);
    say(applied.length > 0 ? `Migrated the database: ${applied.join(', ')}` : 'The database is up to date.');
    return 0;
  });
}
