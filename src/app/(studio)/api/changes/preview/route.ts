import { change, inputOf } from '@/app/request/respond';
import { ChangeManySchema } from '@/core/change';
import { previewChange } from '@/server/services/changes/plan';

/** What one change of many people would do; nothing is written. */
export const POST = (request: Request) =>
  change(request, 'change', async (actor) => previewChange(actor, await inputOf(request, ChangeManySchema)));
