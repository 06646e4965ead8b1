import { z } from 'zod';
import { actorOrRefuse, change, idOf, inputOf, respond } from '@/app/request/respond';
import { TAG_ROOM } from '@/core/ndef';
import { systemClock } from '@/server/clock';
import { openTag, renewTag, sizeTag, tagWritten } from '@/server/services/hand-outs/tags';

type Params = { params: Promise<{ handOut: string }> };
const Size = z.object({ room: z.literal(TAG_ROOM) });
const Acted = z.discriminatedUnion('act', [
  z.object({ act: z.literal('renew') }),
  z.object({ act: z.literal('written'), locked: z.boolean() }),
]);

/** A tag with its bytes and their proof. */
export const GET = (_: Request, { params }: Params) =>
  respond(async () => openTag(await actorOrRefuse(), idOf((await params).handOut), systemClock));

/** Keeps which size it has. */
export const PUT = (request: Request, { params }: Params) =>
  change(request, 'change', async (actor) =>
    sizeTag(actor, idOf((await params).handOut), (await inputOf(request, Size)).room, systemClock),
  );

/** Has it carry what its card says today, or notes that it was written. */
export const POST = (request: Request, { params }: Params) =>
  change(request, 'change', async (actor) => {
    const id = idOf((await params).handOut);
    const input = await inputOf(request, Acted);
    return input.act === 'renew' ? renewTag(actor, id, systemClock) : tagWritten(actor, id, input, systemClock);
  });
