import { bytesOf, change } from '@/app/request/respond';
import { LIMITS } from '@/core/limits';
import { systemClock } from '@/server/clock';
import { addLogo } from '@/server/services/media/add-picture';

export const POST = (request: Request) =>
  change(request, 'picture', async (actor) => addLogo(actor, await bytesOf(request, LIMITS.photoBytes), systemClock));
