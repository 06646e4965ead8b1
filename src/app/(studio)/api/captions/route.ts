import { bytesOf, change } from '@/app/request/respond';
import { LIMITS } from '@/core/limits';
import { systemClock } from '@/server/clock';
import { addCaptions } from '@/server/services/media/films';

export const POST = (request: Request) =>
  change(request, 'film', async (actor) =>
    addCaptions(actor, await bytesOf(request, LIMITS.captionBytes), systemClock),
  );
