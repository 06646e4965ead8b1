import { createHash, randomUUID } from 'node:crypto';
import { mkdir, open, readFile, rename } from 'node:fs/promises';
import path from 'node:path';

/** Where pictures and files lie: by the SHA-256 of their bytes, never changed. */
export type FileStore = {
  /** Keeps bytes and answers with their hash (64 hexadecimal digits) once they are safely written. */
  put: (bytes: Uint8Array) => Promise<string>;
  get: (hash: string) => Promise<Buffer | null>;
};

/** A folder on disk. A file appears under its name only when it is complete. */
export function folderStore(root: string): FileStore {
  const placeOf = (hash: string) => path.join(root, hash.slice(0, 2), hash);
  return {
    async put(bytes) {
      const hash = createHash('sha256').update(bytes).digest('hex');
      const place = placeOf(hash);
      await mkdir(path.dirname(place), { recursive: true });
      const unfinished = `${place}.${randomUUID()}`;
      const file = await open(unfinished, 'wx');
      try {
        await file.writeFile(bytes);
        await file.sync();
      } finally {
        await file.close();
      }
      await rename(unfinished, place);
      return hash;
    },
    async get(hash) {
      if (!/^[0-9a-f]{64}$/.test(hash)) return null;
      return readFile(placeOf(hash)).catch(() => null);
    },
  };
}
