import { z } from 'zod';
import { actorOrRefuse, change, inputOf, respond } from '@/app/request/respond';
import { leadsAsked } from '@/app/request/leads';
import { LIMITS } from '@/core/limits';
import { DetailSchema } from '@/core/record';
import { systemClock } from '@/server/clock';
import { addLead } from '@/server/services/replies/add-lead';
import { removeLeads } from '@/server/services/replies/keep-lead';
import { listLeads } from '@/server/services/replies/list-leads';

const Input = z.object({
  name: z.string().max(300),
  details: z.array(DetailSchema).max(LIMITS.details),
  occasion: z.uuid().nullable().default(null),
});

const Erased = z.object({ ids: z.array(z.uuid()).min(1).max(LIMITS.leadsAtOnce) });

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

/** Erases several leads, each with all that was told and noted. */
export const DELETE = (request: Request) =>
  change(request, 'change', async (actor) => removeLeads(actor, (await inputOf(request, Erased)).ids, systemClock));
