import { z } from 'zod';
import { change, inputOf } from '@/app/request/respond';
import { ContentSchema } from '@/core/code/schema';
import { systemClock } from '@/server/clock';
import { makeSignature } from '@/server/services/hand-outs/signature';
import { reusedHandOut } from '@/server/services/hand-outs/reused';
import { addPiece } from '@/server/services/pieces/parts';
import { makeHandOut } from '@/server/services/hand-outs/make';

const Input = z.object({
  cardId: z.uuid(),
  placement: z.string().max(300),
  occasionId: z.uuid().nullable().optional(),
  channel: z.enum(['code', 'tag', 'signature', 'profile', 'print', 'backdrop', 'pass']).optional(),
  content: ContentSchema.optional(),
  frozen: z.boolean().optional(),
});

export const POST = (request: Request) =>
  change(request, 'change', async (actor) => {
    const { channel, ...input } = await inputOf(request, Input);
    if (channel === 'profile') {
      const { cardId, placement, occasionId = null } = input;
      return reusedHandOut(actor, cardId, { channel, placement, occasionId }, systemClock);
    }
    if (channel === 'print' || channel === 'backdrop' || channel === 'pass')
      return addPiece(actor, { ...input, channel }, systemClock);
    return channel === 'signature'
      ? makeSignature(actor, input.cardId, systemClock)
      : makeHandOut(actor, { ...input, channel }, systemClock);
  });
