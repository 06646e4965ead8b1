import { change, idOf, inputOf } from '@/app/request/respond';
import { RunSchema } from '@/core/print';
import { systemClock } from '@/server/clock';
import { editRun } from '@/server/services/pieces/print';

type Params = { params: Promise<{ handOut: string; run: string }> };

/** Corrects what was noted of copies. */
export const PUT = (request: Request, { params }: Params) =>
  change(request, 'change', async (actor) => {
    const { handOut, run } = await params;
    return { runs: await editRun(actor, idOf(handOut), idOf(run), await inputOf(request, RunSchema), systemClock) };
  });

/** Takes the note away. */
export const DELETE = (request: Request, { params }: Params) =>
  change(request, 'change', async (actor) => {
    const { handOut, run } = await params;
    return { runs: await editRun(actor, idOf(handOut), idOf(run), null, systemClock) };
  });
