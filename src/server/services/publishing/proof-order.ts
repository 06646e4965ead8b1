import type { ProofOrder } from '@/server/compute';
import type { Clock } from '@/server/clock';
import type { Actor } from '@/server/services/accounts/actor';
import { contactContexts } from './contact-context';
import { picturesOf, picturesToProve, type FindPicture, type Later } from '@/server/services/media/pictures';

/** The placement of the code that every card gets with its first revision. */
export const FIRST_PLACEMENT = 'Code on screen';

/** A card to be proven: what goes out of it, what it was made from, and where and since when it is served (ISO 8601). */
export type ToProve = Pick<ProofOrder, 'person' | 'lines' | 'words' | 'shown' | 'house'> & {
  cardId: string;
  address: string | null;
  revised: string;
};

/** All that the proof of a card's outputs needs, as the compute pool takes it; its pictures are read once no transaction waits for them. */
export async function proofOrder(
  find: FindPicture,
  actor: Actor,
  { cardId, address, revised, ...card }: ToProve,
  clock: Clock,
): Promise<Later<ProofOrder>> {
  const { organisationId } = actor;
  const carried = await picturesOf(find, card.shown);
  const toProve = await picturesToProve(find, card.shown);
  return async () => ({
    ...card,
    country: actor.organisation.country,
    fileContexts: contactContexts({ cardId, organisationId, address, revised, ...(await carried()) }),
    placement: FIRST_PLACEMENT,
    ...(await toProve()),
    now: clock.now(),
  });
}
