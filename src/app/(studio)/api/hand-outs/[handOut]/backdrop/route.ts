import { actorOrRefuse, change, idOf, inputOf, respond } from '@/app/request/respond';
import { BackdropSchema } from '@/core/backdrop';
import { systemClock } from '@/server/clock';
import { openBackdrop, saveBackdrop } from '@/server/services/pieces/backdrop';

type Params = { params: Promise<{ handOut: string }> };

/** A backdrop as it is now, with the proof of its picture. */
export const GET = (_: Request, { params }: Params) =>
  respond(async () => openBackdrop(await actorOrRefuse(), idOf((await params).handOut), systemClock));

/** Keeps how it is made up. */
export const PUT = (request: Request, { params }: Params) =>
  change(request, 'change', async (actor) =>
    saveBackdrop(actor, idOf((await params).handOut), await inputOf(request, BackdropSchema), systemClock),
  );
