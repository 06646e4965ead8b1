import { bytesOf, change } from '@/app/request/respond';
import { LIMITS } from '@/core/limits';
import { systemClock } from '@/server/clock';
import { addPhoto } from '@/server/services/media/add-picture';

export const POST = (request: Request) =>
  change(request, 'picture', async (actor) => addPhoto(actor, await bytesOf(request, LIMITS.photoBytes), systemClock));
