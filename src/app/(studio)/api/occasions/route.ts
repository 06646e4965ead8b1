import { z } from 'zod';
import { actorOrRefuse, change, inputOf, respond } from '@/app/request/respond';
import { LIMITS } from '@/core/limits';
import { systemClock } from '@/server/clock';
import { listOccasions, makeOccasion } from '@/server/services/hand-outs/occasions';

const day = z.iso.date();
const Input = z
  .object({
    name: z.string().trim().min(1).max(LIMITS.placement),
    place: z.string().trim().max(LIMITS.placement).default(''),
    firstDay: day,
    lastDay: day,
  })
  .refine(({ firstDay, lastDay }) => firstDay <= lastDay, { path: ['lastDay'] });

/** Fairs and meetings that are not over. */
export const GET = () => respond(async () => ({ occasions: await listOccasions(await actorOrRefuse(), systemClock) }));

export const POST = (request: Request) =>
  change(request, 'change', async (actor) => makeOccasion(actor, await inputOf(request, Input), systemClock));
