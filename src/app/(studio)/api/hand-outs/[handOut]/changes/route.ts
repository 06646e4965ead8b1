import { z } from 'zod';
import { change, idOf, inputOf } from '@/app/request/respond';
import { LIMITS } from '@/core/limits';
import { systemClock } from '@/server/clock';
import { duplicateHandOut, pointElsewhere, renameHandOut, setHandOutState } from '@/server/services/hand-outs/change';

const Input = z.discriminatedUnion('what', [
  z.object({ what: z.literal('name'), placement: z.string().max(300), occasionId: z.uuid().nullable() }),
  z.object({
    what: z.literal('state'),
    state: z.enum(['out', 'resting', 'retired']),
    notice: z.string().max(LIMITS.text),
  }),
  z.object({ what: z.literal('card'), cardId: z.uuid() }),
]);

type Params = { params: Promise<{ handOut: string }> };

/** Where a hand-out is, whether it is out, or which card it opens. */
export const PUT = (request: Request, { params }: Params) =>
  change(request, 'change', async (actor) => {
    const id = idOf((await params).handOut);
    const input = await inputOf(request, Input);
    if (input.what === 'name') return renameHandOut(actor, id, input, systemClock);
    if (input.what === 'state') return setHandOutState(actor, id, input, systemClock);
    return pointElsewhere(actor, id, input.cardId, systemClock);
  });

/** One more that does and looks the same. */
export const POST = (request: Request, { params }: Params) =>
  change(request, 'picture', async (actor) => duplicateHandOut(actor, idOf((await params).handOut), systemClock));
