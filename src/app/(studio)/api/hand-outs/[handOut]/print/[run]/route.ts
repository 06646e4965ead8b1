import { z } from 'zod';
import { change, idOf, inputOf } from '@/app/request/respond';
import { LIMITS } from '@/core/limits';
import { systemClock } from '@/server/clock';
import { editRun } from '@/server/services/hand-outs/print';

type Params = { params: Promise<{ handOut: string; run: string }> };

const Run = z.object({
  printedOn: z.iso.date(),
  copies: z.number().int().min(1).max(1_000_000),
  place: z.string().max(LIMITS.placement),
});

/** Corrects what was noted of copies. */
export const PUT = (request: Request, { params }: Params) =>
  change(request, 'change', async (actor) => {
    const { handOut, run } = await params;
    return { runs: await editRun(actor, idOf(handOut), idOf(run), await inputOf(request, Run), systemClock) };
  });

/** Takes the note away. */
export const DELETE = (request: Request, { params }: Params) =>
  change(request, 'change', async (actor) => {
    const { handOut, run } = await params;
    return { runs: await editRun(actor, idOf(handOut), idOf(run), null, systemClock) };
  });
