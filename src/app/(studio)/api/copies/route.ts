import { actorOrRefuse, idOf, respond } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { limitRate } from '@/server/services/accounts/limit-rate';
import { listCopies } from '@/server/services/wild/list-copies';

/** Copies that are out: those that are out of date, with `all` every one, with `q` those that carry a value; of one `card` or `handOut`, from `after` on. */
export const GET = (request: Request) =>
  respond(async () => {
    const actor = await actorOrRefuse();
    await limitRate('search', actor.userId, systemClock);
    const asked = new URL(request.url).searchParams;
    const [cardId, handOutId] = [asked.get('card'), asked.get('handOut')];
    return listCopies(actor, {
      cardId: cardId && idOf(cardId),
      handOutId: handOutId && idOf(handOutId),
      which: asked.has('all') ? 'all' : 'wild',
      value: (asked.get('q') ?? '').slice(0, 200),
      after: asked.get('after'),
    });
  });
