import { bytesOf, change } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { CONTACT_FILE_BYTES, importContacts } from '@/server/services/import-contacts';

export const POST = (request: Request) =>
  change(request, async (actor) => ({
    imported: await importContacts(actor, await bytesOf(request, CONTACT_FILE_BYTES), systemClock),
  }));
