import { Refusal } from '@/core/errors';
import { ownedFor, ownersRefuse, type Held, type Owned } from '@/core/house';
import type { Tx } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';
import { houseOf } from './house-style';

/** What of a record and its cards this member finds closed, with the reasons. */
export const ownedOf = async (tx: Tx, actor: Actor, of: { record_id: string }): Promise<Owned> =>
  ownedFor(actor.role, (await houseOf(tx, of))?.style ?? null);

/** Refuses an edit of what is not its editor's to change. Errors: OWNED with the kind and the reason, LOCKED for ticks and order. */
export async function refuseOwned(
  tx: Tx,
  actor: Actor,
  of: { record_id: string },
  before: Held,
  after: Held,
): Promise<void> {
  const house = (await houseOf(tx, of))?.style ?? null;
  const problem = ownersRefuse(before, after, ownedFor(actor.role, house), house?.locks ?? {});
  if (problem) throw new Refusal(problem);
}
