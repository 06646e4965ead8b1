import { actorOrRefuse, bytesOf, change, idOf, respond } from '@/app/request/respond';
import { LIMITS } from '@/core/limits';
import { systemClock } from '@/server/clock';
import { givePicture, matchRunPictures, picturesOfRun } from '@/server/services/roster/pictures';

type Params = { params: Promise<{ run: string }> };

/** The pictures of a run, and whose they are. */
export const GET = (_: Request, { params }: Params) =>
  respond(async () => ({ pictures: await picturesOfRun(await actorOrRefuse(), idOf((await params).run)) }));

/** One picture as bytes; `?name=` is its file name, by which it finds its person. */
export const PUT = (request: Request, { params }: Params) =>
  change(request, 'picture of many', async (actor) => {
    const name = new URL(request.url).searchParams.get('name') ?? '';
    return givePicture(actor, idOf((await params).run), name, await bytesOf(request, LIMITS.photoBytes));
  });

/** Gives each row the picture that is its own, once all are there. */
export const POST = (request: Request, { params }: Params) =>
  change(request, 'change', async (actor) => matchRunPictures(actor, idOf((await params).run), systemClock));
