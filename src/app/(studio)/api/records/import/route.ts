import { bytesOf, change } from '@/app/request/respond';
import { LIMITS } from '@/core/limits';
import { systemClock } from '@/server/clock';
import { takeContactFile } from '@/server/services/imports/begin-import';

/** A contact file as bytes; `?name=` is what its owner calls it. */
export const POST = (request: Request) =>
  change(request, 'import', async (actor) => {
    const name = new URL(request.url).searchParams.get('name') ?? '';
    return takeContactFile(actor, await bytesOf(request, LIMITS.contactFileBytes), systemClock, name.slice(0, 300));
  });
