import { LIMITS } from '@/core/limits';
import { eraseEnded, forgetFilesOf } from '@/server/db/cards/deletion';
import { sortInbox } from '@/server/db/response/events';
import { namedOf } from '@/server/db/media/films';
import { outsideTenants } from '@/server/db/pool';
import { files } from '@/server/files';
import { log } from '@/server/log';

const DAY_MS = 86_400_000;
/** A file that somebody has put just now is about to be named. */
const YOUNG_MS = 3_600_000;

/**
 * Erases what was deleted longer ago than it can be brought back, members who have left, and imports that nobody went on with: from the
 * tables, with the files that nothing names any more. Addresses and codes stay reserved; the audit trail keeps ids. A row at fault costs
 * only itself, is logged and told to its owner.
 */
export async function eraseWhatEnded(now: number): Promise<{ erased: number }> {
  // What recipients did of it is among the events before these are looked through.
  await outsideTenants(sortInbox);
  const ended = await outsideTenants((db) => eraseEnded(db, new Date(now - LIMITS.deletedDays * DAY_MS)));
  const of = new Map<string, Set<string>>();
  for (const { organisation_id: organisation, kind, subject, hashes, code } of ended) {
    if (code)
      log.error({ sweep: 'deleted', organisation, kind, subject, code }, 'a row is at fault and was passed over');
    of.set(organisation, new Set([...(of.get(organisation) ?? []), ...hashes]));
  }
  for (const [organisation, hashes] of of) {
    if (hashes.size === 0) continue;
    const given = [...hashes];
    const gone = await outsideTenants((db) => forgetFilesOf(db, organisation, given));
    const candidates = [...new Set([...given, ...gone])];
    const named = new Set(await outsideTenants((db) => namedOf(db, candidates)));
    for (const hash of candidates) if (!named.has(hash)) await files().forgetOlder(hash, now - YOUNG_MS);
  }
  return { erased: ended.filter(({ code }) => code === null).length };
}
