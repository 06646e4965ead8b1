import { change, idOf, inputOf } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { changeOccasion, OccasionSchema, removeOccasion } from '@/server/services/hand-outs/occasions';

type Params = { params: Promise<{ occasion: string }> };

export const PUT = (request: Request, { params }: Params) =>
  change(request, 'change', async (actor) =>
    changeOccasion(actor, idOf((await params).occasion), await inputOf(request, OccasionSchema), systemClock),
  );

export const DELETE = (request: Request, { params }: Params) =>
  change(request, 'change', async (actor) => removeOccasion(actor, idOf((await params).occasion), systemClock));
