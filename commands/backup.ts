import { existsSync } from 'node:fs';
import { makeArchive } from './archive/archive';
import { withInstallation } from './archive/installation';
import { fromWhereCalled } from './place';
import { say, Stop } from './stop';

/** Database and files of the installation in one archive, while it runs. */
export async function run([file, ...rest]: string[]): Promise<number> {
  if (!file || rest.length > 0) throw new Stop('Say where to: ./heathland backup FILE');
  const archive = fromWhereCalled(file);
  if (existsSync(archive)) throw new Stop(`${archive} is there already and was left as it is. Choose another name.`);
  return withInstallation(async (databaseUrl) => {
    const { files, bytes } = await makeArchive(databaseUrl, archive, new Date());
    say(`Wrote ${archive}: the database, and ${files} files of ${(bytes / 1e6).toFixed(1)} MB.`);
    return 0;
  });
}
