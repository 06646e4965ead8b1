import { createHash, randomUUID } from 'node:crypto';
import { mkdir, open, readdir, readFile, rename, rm, stat } from 'node:fs/promises';
import path from 'node:path';
import { Refusal } from '@/core/errors';
import { isHash, piecesOf, type FileStore } from './store';

const codeOf = (error: unknown) => (error as { code?: string }).code ?? '';
/** No space left, quota used up, larger than a file may be. */
const FULL = new Set(['ENOSPC', 'EDQUOT', 'EFBIG']);

/** A folder on disk. A file appears under its name only when it is complete. */
export function folderStore(root: string): FileStore {
  const placeOf = (hash: string) => path.join(root, hash.slice(0, 2), hash);
  /** When a file was put for the last time; one that is gone is as young as can be. */
  const ageOf = (hash: string) =>
    stat(placeOf(hash)).then(
      ({ mtimeMs }) => mtimeMs,
      () => Number.POSITIVE_INFINITY,
    );
  return {
    async put(...parts) {
      const unfinished = path.join(root, `unfinished.${randomUUID()}`);
      const sum = createHash('sha256');
      try {
        await mkdir(root, { recursive: true });
        const file = await open(/* turbopackIgnore: true */ unfinished, 'wx');
        try {
          for (const piece of piecesOf(parts)) {
            sum.update(piece);
            await file.writeFile(piece);
          }
          await file.sync();
        } finally {
          await file.close();
        }
        const hash = sum.digest('hex');
        await mkdir(path.dirname(placeOf(hash)), { recursive: true });
        await rename(unfinished, placeOf(hash));
        return hash;
      } catch (error) {
        await rm(unfinished, { force: true }).catch(() => undefined);
        throw FULL.has(codeOf(error)) ? new Refusal({ code: 'STORE_FULL' }) : error;
      }
    },
    async get(hash) {
      if (!isHash(hash)) return null;
      return readFile(placeOf(hash)).catch((error: unknown) => {
        if (codeOf(error) === 'ENOENT') return null;
        throw new Refusal({ code: 'STORE_UNAVAILABLE' });
      });
    },
    async size(hash) {
      if (!isHash(hash)) return null;
      return stat(placeOf(hash)).then(
        ({ size }) => size,
        (error: unknown) => {
          if (codeOf(error) === 'ENOENT') return null;
          throw new Refusal({ code: 'STORE_UNAVAILABLE' });
        },
      );
    },
    async part(hash, first, last) {
      if (!isHash(hash)) return null;
      try {
        const file = await open(/* turbopackIgnore: true */ placeOf(hash));
        return file.createReadStream({ start: first, end: last });
      } catch (error) {
        if (codeOf(error) === 'ENOENT') return null;
        throw new Refusal({ code: 'STORE_UNAVAILABLE' });
      }
    },
    async *olderThan(instant) {
      const folders = await readdir(root).catch(() => []);
      for (const folder of folders.filter((name) => /^[0-9a-f]{2}$/.test(name)))
        for (const name of await readdir(path.join(root, folder)).catch(() => []))
          if (isHash(name) && (await ageOf(name)) < instant) yield name;
    },
    async forgetOlder(hash, instant) {
      if (!isHash(hash) || (await ageOf(hash)) >= instant) return false;
      await rm(placeOf(hash), { force: true });
      return true;
    },
    async forget(hash) {
      if (isHash(hash)) await rm(placeOf(hash), { force: true });
    },
  };
}
