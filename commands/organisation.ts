import { existsSync } from 'node:fs';
import path from 'node:path';
import { exportOrganisation, takeInOrganisation } from './archive/organisation';
import { withInstallation } from './archive/installation';
import { asOwner } from './cluster/databases';
import { say, Stop } from './stop';

const USAGE = 'organisation, organisation export ID FILE, organisation take-in FILE';

/** The organisations of an installation; one of them into an archive, and an archive into another installation. */
export async function run([verb, ...args]: string[]): Promise<number> {
  if (verb === undefined)
    return withInstallation(async (url) => {
      const { rows } = await asOwner(url, (client) =>
        client.query<{ id: string; name: string }>(
          'SELECT id, name FROM organisations WHERE erased_at IS NULL ORDER BY name',
        ),
      );
      for (const { id, name } of rows) process.stdout.write(`${id}\t${name}\n`);
      return 0;
    });
  if (verb === 'export' && args.length === 2 && /^[0-9a-f-]{36}$/.test(args[0]!)) {
    const file = path.resolve(args[1]!);
    if (existsSync(file)) throw new Stop(`${file} is there already and was left as it is. Choose another name.`);
    return withInstallation(async (url) => {
      const { rows, files } = await exportOrganisation(url, args[0]!, file, new Date());
      say(`Wrote ${file}: ${rows} rows and ${files} files.`);
      return 0;
    });
  }
  if (verb === 'take-in' && args.length === 1)
    return withInstallation(async (url) => {
      const { organisation, rows, files } = await takeInOrganisation(url, path.resolve(args[0]!));
      say(`Took in ${organisation}: ${rows} rows and ${files} files.`);
      return 0;
    });
  throw new Stop(`Say what to do: ./heathland ${USAGE}`);
}
