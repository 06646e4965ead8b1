import { z } from 'zod';
import { change, idOf, inputOf } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { shareCard } from '@/server/services/hand-outs/share';

const Input = z.object({ placement: z.string().max(300), occasionId: z.uuid().nullable() });

type Params = { params: Promise<{ card: string }> };

/** The link and the contact file that a device shares. */
export const POST = (request: Request, { params }: Params) =>
  change(request, 'change', async (actor) =>
    shareCard(actor, idOf((await params).card), await inputOf(request, Input), systemClock),
  );
