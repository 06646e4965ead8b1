import { bytesOf, change } from '@/app/request/respond';
import { LIMITS } from '@/core/limits';
import { systemClock } from '@/server/clock';
import { addFilm } from '@/server/services/media/films';

export const POST = (request: Request) =>
  change(request, 'film', async (actor) => addFilm(actor, await bytesOf(request, LIMITS.videoBytes), systemClock));
