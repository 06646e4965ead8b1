import { z } from 'zod';
import { change, idOf, inputOf } from '@/app/request/respond';
import { LIMITS } from '@/core/limits';
import { systemClock } from '@/server/clock';
import { sendMessage } from '@/server/services/hand-outs/message';

const Input = z.object({
  to: z.string().max(300),
  name: z.string().max(300),
  note: z.string().max(LIMITS.text),
  placement: z.string().max(300),
  occasionId: z.uuid().nullable(),
});

type Params = { params: Promise<{ card: string }> };

/** Sends the card to somebody by mail. */
export const POST = (request: Request, { params }: Params) =>
  change(request, 'change', async (actor) =>
    sendMessage(actor, idOf((await params).card), await inputOf(request, Input), systemClock),
  );
