import { z } from 'zod';
import { change, idOf, inputOf } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { saveParameters } from '@/server/services/hand-outs/profile';

const Input = z.object({ parameters: z.string().max(400) });
type Params = { params: Promise<{ handOut: string }> };

/** What links of the page carry where this hand-out led to it. */
export const PUT = (request: Request, { params }: Params) =>
  change(request, 'change', async (actor) =>
    saveParameters(actor, idOf((await params).handOut), (await inputOf(request, Input)).parameters, systemClock),
  );
