import { z } from 'zod';
import { actorOrRefuse, change, idOf, inputOf, respond } from '@/app/request/respond';
import { VersionSchema } from '@/app/request/well-formed';
import { LIMITS } from '@/core/limits';
import { systemClock } from '@/server/clock';
import { cardsBehind, publishSeveral } from '@/server/services/publishing/publish-several';

const Input = z.object({
  recordVersion: VersionSchema.optional(),
  cards: z
    .array(z.object({ id: z.uuid(), version: VersionSchema }))
    .min(1)
    .max(LIMITS.cards),
});

type Params = { params: Promise<{ record: string }> };

/** The published cards of a record that are behind it, with what publishing each would change. */
export const GET = (_request: Request, { params }: Params) =>
  respond(async () => cardsBehind(await actorOrRefuse(), idOf((await params).record)));

export const POST = (request: Request, { params }: Params) =>
  change(request, 'publish', async (actor) =>
    publishSeveral(actor, idOf((await params).record), await inputOf(request, Input), systemClock),
  );
