import { bytesOf, change } from '@/app/request/respond';
import { LIMITS } from '@/core/limits';
import { systemClock } from '@/server/clock';
import { addLeadFile } from '@/server/services/replies/add-lead';

/** A lead from a contact file of one contact. */
export const POST = (request: Request) =>
  change(request, 'import', async (actor) =>
    addLeadFile(actor, await bytesOf(request, LIMITS.contactFileBytes), null, systemClock),
  );
