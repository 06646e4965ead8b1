import { z } from 'zod';
import { change, inputOf } from '@/app/request/respond';
import { LIMITS } from '@/core/limits';
import { systemClock } from '@/server/clock';
import { makeSpares, giveSpare } from '@/server/services/hand-outs/spares';

const Made = z.object({
  count: z.int().min(1).max(LIMITS.sparesAtOnce),
  placement: z.string().max(300),
  channel: z.enum(['code', 'tag']).default('code'),
});
const Used = z.object({
  cardId: z.uuid().optional(),
  recordId: z.uuid().optional(),
  code: z.string().max(300),
  placement: z.string().max(300),
});

/** Makes codes in advance. */
export const POST = (request: Request) =>
  change(request, 'change', async (actor) => makeSpares(actor, await inputOf(request, Made), systemClock));

/** Has one of them open a card from now on. */
export const PUT = (request: Request) =>
  change(request, 'change', async (actor) => giveSpare(actor, await inputOf(request, Used), systemClock));
