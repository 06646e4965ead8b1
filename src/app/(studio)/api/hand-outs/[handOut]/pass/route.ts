import { actorOrRefuse, change, idOf, respond } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { openPass, sendPass } from '@/server/services/pieces/pass';

type Params = { params: Promise<{ handOut: string }> };

/** A pass as it is now, with the proof of its file. */
export const GET = (_: Request, { params }: Params) =>
  respond(async () => openPass(await actorOrRefuse(), idOf((await params).handOut), systemClock));

/** Sends it to the member's own address. */
export const POST = (request: Request, { params }: Params) =>
  change(request, 'change', async (actor) => sendPass(actor, idOf((await params).handOut), systemClock));
