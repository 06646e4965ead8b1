import { readdirSync, statSync } from 'node:fs';
import path from 'node:path';
import { fromWhereCalled } from './place';
import { builtRelease, releaseInto } from './release/make';
import { say, Stop } from './stop';

/** A release in a folder of its own, which runs where Node.js is and nothing else. */
export async function run([folder, ...rest]: string[]): Promise<number> {
  if (rest.length > 0 || folder?.startsWith('-')) throw new Stop('Say ./heathland build, or ./heathland build FOLDER.');
  const began = performance.now();
  const where = folder ? fromWhereCalled(folder) : await builtRelease();
  if (folder) await releaseInto(where);
  say(
    `${where}\n${megabytes(where).toFixed(0)} MB, in ${((performance.now() - began) / 1_000).toFixed(0)} s. Start it with ${path.join(where, 'heathland')} serve`,
  );
  return 0;
}

function megabytes(folder: string): number {
  return (
    readdirSync(folder, { recursive: true, withFileTypes: true })
      .filter((entry) => entry.isFile())
      .reduce((sum, entry) => sum + statSync(path.join(entry.parentPath, entry.name)).blocks * 512, 0) / 1e6
  );
}
