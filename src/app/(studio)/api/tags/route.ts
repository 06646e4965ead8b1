import { z } from 'zod';
import { actorOrRefuse, change, idOf, inputOf, respond } from '@/app/request/respond';
import { LIMITS } from '@/core/limits';
import { systemClock } from '@/server/clock';
import { listTags, makeTags, tagsWritten } from '@/server/services/hand-outs/tag-rows';

const Made = z.object({
  records: z.array(z.uuid()).max(LIMITS.contactsAtOnce),
  placement: z.string().max(300),
  what: z.enum(['card', 'save']),
});
const Written = z.object({ tags: z.array(z.uuid()).max(LIMITS.tagsShown) });

/** Where there are tags, and with `placement` those of it. */
export const GET = (request: Request) =>
  respond(async () => {
    const placement = new URL(request.url).searchParams.get('placement');
    return listTags(await actorOrRefuse(), placement && idOf(placement));
  });

/** Makes a tag for each of several people. */
export const POST = (request: Request) =>
  change(request, 'export', async (actor) => makeTags(actor, await inputOf(request, Made), systemClock));

/** Notes that some were written. */
export const PUT = (request: Request) =>
  change(request, 'change', async (actor) => tagsWritten(actor, (await inputOf(request, Written)).tags, systemClock));
