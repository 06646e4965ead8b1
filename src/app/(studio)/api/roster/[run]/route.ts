import { change, idOf, inputOf } from '@/app/request/respond';
import { OptionsSchema } from '@/core/roster/schema';
import { systemClock } from '@/server/clock';
import { dropRun, setOptions } from '@/server/services/roster/open-run';

type Params = { params: Promise<{ run: string }> };

/** Says how a run is carried out. */
export const PUT = (request: Request, { params }: Params) =>
  change(request, 'change', async (actor) =>
    setOptions(actor, idOf((await params).run), await inputOf(request, OptionsSchema), systemClock),
  );

/** Throws a review away. */
export const DELETE = (request: Request, { params }: Params) =>
  change(request, 'change', async (actor) => dropRun(actor, idOf((await params).run)));
