import { existsSync, readFileSync } from 'node:fs';
import { copyFile, link, mkdir, readdir, readlink, symlink } from 'node:fs/promises';
import path from 'node:path';

type Locked = {
  dependencies?: Record<string, string>;
  optionalDependencies?: Record<string, string>;
  peerDependencies?: Record<string, string>;
  peerDependenciesMeta?: Record<string, { optional?: boolean }>;
};

/** Compilers that builds alone need; Next.js names them among what it would like to have. */
const LEFT_OUT = /^(@next\/swc-|@types\/|typescript$|caniuse-lite$)/;

/** The folders in which a package of this folder looks for others. */
function* upwards(from: string): Generator<string> {
  for (let at = from; at !== ''; at = at.slice(0, Math.max(0, at.lastIndexOf('/node_modules/')))) yield at;
  yield '';
}

/**
 * The folders of packages that some need when they run, with all that these need (package-lock.json, version 3: a folder for each
 * package, found as Node.js finds it: in the nearest `node_modules` upwards). What is optional counts where it is installed.
 */
export function neededPackages(root: string, names: string[]): string[] {
  const { packages } = JSON.parse(readFileSync(path.join(root, 'package-lock.json'), 'utf8')) as {
    packages: Record<string, Locked>;
  };
  const nearest = (name: string, from: string): string | undefined =>
    [...upwards(from)].map((folder) => path.posix.join(folder, 'node_modules', name)).find((place) => packages[place]);
  const found = new Set<string>();
  const waiting = names.map((name) => nearest(name, ''));
  while (waiting.length > 0) {
    const place = waiting.pop();
    if (!place || found.has(place) || !existsSync(path.join(root, place))) continue;
    found.add(place);
    const { dependencies, optionalDependencies, peerDependencies, peerDependenciesMeta } = packages[place]!;
    const peers = Object.keys(peerDependencies ?? {}).filter((name) => !peerDependenciesMeta?.[name]?.optional);
    for (const name of [...Object.keys({ ...dependencies, ...optionalDependencies }), ...peers])
      if (!LEFT_OUT.test(name)) waiting.push(nearest(name, place));
  }
  return [...found].sort();
}

/** A second name for every file of a folder, which costs no room; a copy where the other place lies on another disk. `skip` sees the path of each folder and file. */
export async function linkFolder(
  from: string,
  to: string,
  skip: (place: string) => boolean = () => false,
): Promise<void> {
  await mkdir(to, { recursive: true });
  for (const entry of await readdir(from, { withFileTypes: true })) {
    const [source, target] = [path.join(from, entry.name), path.join(to, entry.name)];
    if (skip(source)) continue;
    if (entry.isDirectory()) await linkFolder(source, target, skip);
    else if (entry.isSymbolicLink()) await symlink(await readlink(source), target);
    else
      await link(source, target).catch(async (error: NodeJS.ErrnoException) => {
        if (error.code !== 'EXDEV' && error.code !== 'EPERM' && error.code !== 'EMLINK') throw error;
        await copyFile(source, target);
      });
  }
}
