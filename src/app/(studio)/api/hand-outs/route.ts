import { z } from 'zod';
import { change, inputOf } from '@/app/request/respond';
import { ContentSchema } from '@/core/code/schema';
import { systemClock } from '@/server/clock';
import { makeHandOut } from '@/server/services/hand-outs/make';

const Input = z.object({
  cardId: z.uuid(),
  placement: z.string().max(300),
  occasionId: z.uuid().nullable().optional(),
  channel: z.enum(['code', 'tag']).optional(),
  content: ContentSchema.optional(),
  frozen: z.boolean().optional(),
});

export const POST = (request: Request) =>
  change(request, 'change', async (actor) => makeHandOut(actor, await inputOf(request, Input), systemClock));
