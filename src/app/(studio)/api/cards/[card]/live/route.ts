import { actorOrRefuse, idOf, respond } from '@/app/request/respond';
import { eventStream } from '@/server/changes';
import { Refusal } from '@/core/errors';
import { systemClock } from '@/server/clock';
import { limitRate } from '@/server/services/accounts/limit-rate';
import { cardVersions } from '@/server/services/cards/open-card';

export const dynamic = 'force-dynamic';

/** The versions of a card and its record: an event for each save of anybody, and one when the card is gone. */
export const GET = (request: Request, { params }: { params: Promise<{ card: string }> }) =>
  respond(async () => {
    const actor = await actorOrRefuse();
    await limitRate('progress', actor.userId, systemClock);
    const id = idOf((await params).card);
    const look = async () => ({ gone: false, ...(await cardVersions(actor, id)) });
    const first = await look();
    return eventStream(request, actor.userId, first, {
      of: [id, first.recordId],
      look: () =>
        look().catch((error: unknown) => {
          if (error instanceof Refusal && error.problem.code === 'NOT_FOUND') return { ...first, gone: true };
          throw error;
        }),
      everyMs: 900,
      ends: ({ gone }) => gone,
    });
  });
