import type { Clock } from '@/server/clock';
import { touchCard } from '@/server/db/cards/directory';
import { takeTest } from '@/server/db/hand-outs/hand-outs';
import { inTenant } from '@/server/db/pool';

/** Takes a recipient's scan as the test that its hand-out waits for; answers whether it did, so that it is no view. */
export const takeAsTest = (organisationId: string, handOutId: string, cardId: string, clock: Clock): Promise<boolean> =>
  inTenant(organisationId, async (tx) => {
    const taken = await takeTest(tx, handOutId, new Date(clock.now()));
    if (taken) await touchCard(tx, cardId, organisationId);
    return taken;
  });
