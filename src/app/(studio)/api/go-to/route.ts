import { actorOrRefuse, respond } from '@/app/request/respond';
import { RATES } from '@/core/limits';
import { systemClock } from '@/server/clock';
import { find } from '@/server/services/cards/find';
import { limitRate } from '@/server/services/accounts/limit-rate';

export const GET = (request: Request) =>
  respond(async () => {
    const actor = await actorOrRefuse();
    await limitRate('search', RATES.search.by === 'person' ? actor.userId : actor.organisationId, systemClock);
    return { found: await find(actor, (new URL(request.url).searchParams.get('q') ?? '').slice(0, 200)) };
  });
