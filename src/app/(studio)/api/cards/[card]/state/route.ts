import { z } from 'zod';
import { change, idOf, inputOf } from '@/app/request/respond';
import { LIMITS } from '@/core/limits';
import { systemClock } from '@/server/clock';
import { setState } from '@/server/services/cards/card-state';

const Input = z.object({
  state: z.enum(['published', 'resting', 'retired']),
  notice: z.string().max(LIMITS.text),
  instead: z.uuid().nullable(),
});

export const PUT = (request: Request, { params }: { params: Promise<{ card: string }> }) =>
  change(request, 'publish', async (actor) =>
    setState(actor, idOf((await params).card), await inputOf(request, Input), systemClock),
  );
