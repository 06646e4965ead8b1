import { z } from 'zod';
import { change, idOf, inputOf } from '@/app/request/respond';
import { CropSchema } from '@/core/record';
import { cropPicture } from '@/server/services/roster/pictures';

const Input = z.object({ name: z.string().min(1).max(200), crop: CropSchema.omit({ from: true }) });

/** Cuts another square from a picture of a run. */
export const PUT = (request: Request, { params }: { params: Promise<{ run: string }> }) =>
  change(request, 'picture', async (actor) => {
    const { name, crop } = await inputOf(request, Input);
    return cropPicture(actor, idOf((await params).run), name, crop);
  });
