import { actorOrRefuse, change, inputOf, respond } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { listOccasions, makeOccasion, OccasionSchema } from '@/server/services/hand-outs/occasions';

/** Fairs and meetings that are not over. */
export const GET = () => respond(async () => ({ occasions: await listOccasions(await actorOrRefuse(), systemClock) }));

export const POST = (request: Request) =>
  change(request, 'change', async (actor) => makeOccasion(actor, await inputOf(request, OccasionSchema), systemClock));
