import { skeletonOf, suggestAddress } from '@/core/address';
import { addressOwner, currentPrefix } from '@/server/db/cards/directory';
import type { Tx } from '@/server/db/pool';

/** So many like a taken one are tried; then its owner chooses. */
const MOST_TRIED = 9;

/** An address made from a name, with the organisation's beginning, that nobody has; where many share the name, the name itself. */
export async function freeAddress(tx: Tx, organisationId: string, name: string, most = MOST_TRIED): Promise<string> {
  const prefix = await currentPrefix(tx, organisationId);
  const first = suggestAddress(prefix ? `${prefix} ${name}` : name);
  for (let at = 1; at <= most; at += 1) {
    const tried = at === 1 ? first : `${first}-${at}`;
    if (!(await addressOwner(tx, tried, skeletonOf(tried)))) return tried;
  }
  return first;
}
