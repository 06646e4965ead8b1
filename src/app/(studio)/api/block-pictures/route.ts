import { bytesOf, change } from '@/app/request/respond';
import { LIMITS } from '@/core/limits';
import { systemClock } from '@/server/clock';
import { addBlockPicture } from '@/server/services/media/add-picture';

export const POST = (request: Request) =>
  change(request, 'picture', async (actor) =>
    addBlockPicture(actor, await bytesOf(request, LIMITS.photoBytes), systemClock),
  );
