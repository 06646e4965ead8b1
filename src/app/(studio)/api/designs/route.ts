import { bytesOf, change } from '@/app/request/respond';
import { LIMITS } from '@/core/limits';
import { testDesign } from '@/server/services/hand-outs/designs';

/** Tests the codes of a printed design: a picture, drawing or PDF of it. */
export const POST = (request: Request) =>
  change(request, 'picture', async (actor) => testDesign(actor, await bytesOf(request, LIMITS.designBytes)));
