import { actorOrRefuse, change, idOf, inputOf, respond } from '@/app/request/respond';
import { PieceSchema, RunSchema } from '@/core/print';
import { systemClock } from '@/server/clock';
import { addRun, openPiece, savePiece } from '@/server/services/pieces/print';

type Params = { params: Promise<{ handOut: string }> };

/** A printed piece as it would be printed now, with the proof of its file. */
export const GET = (_: Request, { params }: Params) =>
  respond(async () => openPiece(await actorOrRefuse(), idOf((await params).handOut), systemClock));

/** Keeps how it is made up. */
export const PUT = (request: Request, { params }: Params) =>
  change(request, 'change', async (actor) =>
    savePiece(actor, idOf((await params).handOut), await inputOf(request, PieceSchema), systemClock),
  );

/** Notes copies that are printed. */
export const POST = (request: Request, { params }: Params) =>
  change(request, 'change', async (actor) => ({
    runs: await addRun(actor, idOf((await params).handOut), await inputOf(request, RunSchema), systemClock),
  }));
