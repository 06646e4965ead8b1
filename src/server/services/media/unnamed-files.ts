import { forgetUnnamedRows, namedOf } from '@/server/db/media/films';
import { outsideTenants } from '@/server/db/pool';
import { files } from '@/server/files';
import { log } from '@/server/log';

/** So long a file may lie without anything that names it: a picture that was given and not yet used, a form left open over a holiday. */
const UNNAMED_MS = 30 * 86_400_000;
const AT_ONCE = 500;

/**
 * Takes away rows of pictures and films that nothing names since 30 days, and then files of the store that no row names and that
 * are as old: of imports that came in, of transactions that failed. A file that was put once more meanwhile is young again.
 */
export async function forgetUnnamedFiles(now: number): Promise<{ files: number }> {
  const before = new Date(now - UNNAMED_MS);
  for (const { organisation_id: organisation, code } of await outsideTenants((db) => forgetUnnamedRows(db, before)))
    log.error({ sweep: 'files', organisation, code }, 'a row is at fault and was passed over');
  let forgotten = 0;
  let waiting: string[] = [];
  const look = async () => {
    const hashes = waiting;
    waiting = [];
    const named = new Set(await outsideTenants((db) => namedOf(db, hashes)));
    for (const hash of hashes)
      if (!named.has(hash) && (await files().forgetOlder(hash, before.getTime()))) forgotten += 1;
  };
  for await (const hash of files().olderThan(before.getTime())) {
    waiting.push(hash);
    if (waiting.length >= AT_ONCE) await look();
  }
  await look();
  return { files: forgotten };
}
