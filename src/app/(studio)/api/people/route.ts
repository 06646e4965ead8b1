import { groupOf } from '@/app/request/group';
import { actorOrRefuse, respond } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { limitRate } from '@/server/services/accounts/limit-rate';
import { listPeople, listPeopleIds, listPeopleNames } from '@/server/services/records/list-people';

/** A page of the list of people; with `ids` who they are, all of them; with `names` the first few, for choosing one. */
export const GET = (request: Request) =>
  respond(async () => {
    const actor = await actorOrRefuse();
    await limitRate('search', actor.userId, systemClock);
    const asked = new URL(request.url).searchParams;
    const typed = (asked.get('q') ?? '').slice(0, 200);
    const group = groupOf((name) => asked.get(name));
    if (asked.has('ids')) return { ids: await listPeopleIds(actor, typed, group) };
    if (asked.has('names')) return { names: await listPeopleNames(actor, typed) };
    return listPeople(actor, { typed, after: asked.get('after'), group }, systemClock);
  });
