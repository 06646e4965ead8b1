import { z } from 'zod';
import { change, inputOf } from '@/app/request/respond';
import { LIMITS } from '@/core/limits';
import { systemClock } from '@/server/clock';
import { takeHanded } from '@/server/services/replies/take-handed';

const Input = z.object({
  card: z.uuid(),
  occasion: z.uuid().nullable(),
  name: z.string().max(LIMITS.name * 2),
  reach: z.string().max(LIMITS.email * 2),
  note: z.string().max(LIMITS.replyNote * 2),
  at: z.iso.datetime(),
});

/** A reply that somebody typed on the member's phone. */
export const POST = (request: Request) =>
  change(request, 'change', async (actor) => takeHanded(actor, await inputOf(request, Input), systemClock));
