import { z } from 'zod';
import { change, inputOf } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { makeHandOut } from '@/server/services/cards/hand-outs';

const Input = z.object({
  cardId: z.uuid(),
  placement: z.string().max(300),
  channel: z.enum(['code', 'tag']).optional(),
  frozen: z.boolean().optional(),
});

export const POST = (request: Request) =>
  change(request, 'change', async (actor) => makeHandOut(actor, await inputOf(request, Input), systemClock));
