import { actorOrRefuse, hashOf, respond } from '@/app/request/respond';
import { toResponse } from '@/app/request/recipient';
import { Refusal } from '@/core/errors';
import { deliverFilm } from '@/recipient';
import { filmOf } from '@/server/services/media/films';

/** A film or captions of the organisation, for the specimen; byte ranges as recipients get them. */
export const GET = (request: Request, { params }: { params: Promise<{ hash: string }> }) =>
  respond(async () => {
    const hash = hashOf((await params).hash);
    const { type, bytes, part } = await filmOf(await actorOrRefuse(), hash);
    const answer = await deliverFilm((name) => request.headers.get(name) ?? '', { hash, type, bytes }, part);
    if (!answer) throw new Refusal({ code: 'NOT_FOUND' });
    return toResponse(answer);
  });
