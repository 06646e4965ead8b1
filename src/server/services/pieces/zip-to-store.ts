import type { PassThrough } from 'node:stream';
import { ZipFile } from 'yazl';
import type { MadePart } from '@/server/db/jobs/made-files';
import { files } from '@/server/files';
import { drained } from '@/server/services/media/drained';

/** Bytes of a part that lies in the store by itself. */
const PART = 8_000_000;

export type ZipToStore = {
  /** Adds a file; resolves once the store has caught up, so that few bytes are held whatever is added. Errors: STORE_FULL, STORE_UNAVAILABLE. */
  add: (name: string, bytes: Buffer, options: { compress: boolean }) => Promise<void>;
  /** Ends it; answers with its parts, which follow on one another. Errors: STORE_FULL, STORE_UNAVAILABLE. */
  end: () => Promise<MadePart[]>;
};

/** A ZIP that goes into the file store part by part while it is made, `at` an instant (milliseconds, UTC). Beyond 4 GB it is written as ZIP64. */
export function zipToStore(at: number): ZipToStore {
  const zip = new ZipFile();
  const out = zip.outputStream as PassThrough;
  const parts: MadePart[] = [];
  let [held, waiting]: [Buffer[], number] = [[], 0];
  const keep = async () => {
    if (waiting === 0) return;
    const [bytes, size] = [held, waiting];
    [held, waiting] = [[], 0];
    parts.push({ file: await files().put(...bytes), bytes: size });
  };
  const stored = (async () => {
    for await (const chunk of out as AsyncIterable<Buffer>) {
      held.push(chunk);
      waiting += chunk.length;
      if (waiting >= PART) await keep();
    }
    await keep();
  })();
  // Whoever adds or ends hears of its failure.
  stored.catch(() => undefined);
  return {
    async add(name, bytes, { compress }) {
      if (out.destroyed) return stored;
      zip.addBuffer(bytes, name, { compress, mtime: new Date(at) });
      await Promise.race([drained(out), stored]);
    },
    async end() {
      zip.end();
      await stored;
      return parts;
    },
  };
}
