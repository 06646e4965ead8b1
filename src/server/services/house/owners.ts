import { Refusal, type Problem } from '@/core/errors';
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
  const problem = await notTheirs(tx, actor, of, before, after);
  if (problem) throw new Refusal(problem);
}

/** What of an edit is not the actor's to do, as a problem with its reason; null where nothing is. */
export async function notTheirs(
  tx: Tx,
  actor: Actor,
  of: { record_id: string },
  before: Held,
  after: Held,
): Promise<Problem | null> {
  const house = (await houseOf(tx, of))?.style ?? null;
  return ownersRefuse(before, after, ownedFor(actor.role, house), house?.locks ?? {});
}
