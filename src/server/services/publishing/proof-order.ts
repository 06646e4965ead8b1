import type { ProofOrder } from '@/server/compute';
import type { Tx } from '@/server/db/pool';
import type { Clock } from '@/server/clock';
import type { Actor } from '@/server/services/accounts/actor';
import { contactContexts } from './contact-context';
import { picturesOf, picturesToProve } from '@/server/services/media/pictures';

/** The placement of the code that every card gets with its first revision. */
export const FIRST_PLACEMENT = 'Code on screen';

/** A card to be proven: what goes out of it, what it was made from, and where and since when it is served (ISO 8601). */
export type ToProve = Pick<ProofOrder, 'person' | 'lines' | 'words' | 'shown' | 'house'> & {
  cardId: string;
  address: string | null;
  revised: string;
};

/** All that the proof of a card's outputs needs, as the compute pool takes it. */
export async function proofOrder(
  tx: Tx,
  actor: Actor,
  { cardId, address, revised, ...card }: ToProve,
  clock: Clock,
): Promise<ProofOrder> {
  const { organisationId } = actor;
  const served = { cardId, organisationId, address, revised, ...(await picturesOf(tx, card.shown)) };
  return {
    ...card,
    country: actor.organisation.country,
    fileContexts: contactContexts(served),
    placement: FIRST_PLACEMENT,
    ...(await picturesToProve(tx, card.shown)),
    now: clock.now(),
  };
}
