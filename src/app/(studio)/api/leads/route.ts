import { z } from 'zod';
import { actorOrRefuse, change, inputOf, respond } from '@/app/request/respond';
import { leadsAsked } from '@/app/request/leads';
import { LIMITS } from '@/core/limits';
import { DetailSchema } from '@/core/record';
import { systemClock } from '@/server/clock';
import { addLead } from '@/server/services/replies/add-lead';
import { listLeads } from '@/server/services/replies/list-leads';

const Input = z.object({
  name: z.string().max(300),
  details: z.array(DetailSchema).max(LIMITS.details),
  occasion: z.uuid().nullable().default(null),
});

/** Further leads of a list. */
export const GET = (request: Request) =>
  respond(async () => {
    const { searchParams } = new URL(request.url);
    return listLeads(
      await actorOrRefuse(),
      leadsAsked((name) => searchParams.get(name)),
      systemClock,
    );
  });

/** Notes somebody whom the member met. */
export const POST = (request: Request) =>
  change(request, 'change', async (actor) => addLead(actor, await inputOf(request, Input), systemClock));
