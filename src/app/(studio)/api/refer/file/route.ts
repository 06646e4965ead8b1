import { bytesOf, change } from '@/app/request/respond';
import { LIMITS } from '@/core/limits';
import { systemClock } from '@/server/clock';
import { addContactFile } from '@/server/services/contacts/contacts';

/** The same from a contact file of one contact. */
export const POST = (request: Request) =>
  change(request, 'import', async (actor) =>
    addContactFile(actor, await bytesOf(request, LIMITS.contactFileBytes), systemClock),
  );
