import { MendInput } from '@/app/request/privacy';
import { change, inputOf } from '@/app/request/respond';
import { previewMend } from '@/server/services/wild/mend';

/** What a mend would do and what it would leave. */
export const POST = (request: Request) =>
  change(request, 'change', async (actor) => previewMend(actor, await inputOf(request, MendInput)));
