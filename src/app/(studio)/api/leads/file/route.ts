import { bytesOf, change } from '@/app/request/respond';
import { LIMITS } from '@/core/limits';
import { systemClock } from '@/server/clock';
import { addLeadFile } from '@/server/services/replies/add-lead';

/** Leads from a contact file. */
export const POST = (request: Request) =>
  change(request, 'import', async (actor) =>
    addLeadFile(actor, await bytesOf(request, LIMITS.contactFileBytes), null, systemClock),
  );
