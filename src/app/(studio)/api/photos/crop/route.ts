import { change, inputOf } from '@/app/request/respond';
import { CropSchema } from '@/core/record';
import { systemClock } from '@/server/clock';
import { cropPhoto } from '@/server/services/media/add-picture';

export const POST = (request: Request) =>
  change(request, 'picture', async (actor) => cropPhoto(actor, await inputOf(request, CropSchema), systemClock));
