import { bytesOf, change } from '@/app/request/respond';
import { LIMITS } from '@/core/limits';
import { systemClock } from '@/server/clock';
import { takeContactFile } from '@/server/services/import-contacts';

export const POST = (request: Request) =>
  change(request, 'import', async (actor) =>
    takeContactFile(actor, await bytesOf(request, LIMITS.contactFileBytes), systemClock),
  );
