import { importContact, readContacts } from '@/server/services/import-contacts';
import { files } from '@/server/files';
import type { RunningJob } from '@/server/services/run-job';
import { Refusal } from '@/core/errors';

/** Makes records of the contacts of a stored file. A contact that an earlier try made is left as it is. */
export async function importContacts({
  id,
  actor,
  input,
  clock,
  progress,
}: RunningJob): Promise<Record<string, number>> {
  const bytes = await files().get(String(input.file));
  if (!bytes) throw new Refusal({ code: 'NOT_FOUND' });
  const contacts = readContacts(actor, bytes);
  let made = 0;
  let kept = 0;
  for (const [at, contact] of contacts.entries()) {
    await progress(at, contacts.length);
    const imported = await importContact(actor, contact, clock, { job: id, at });
    made += 1;
    kept += imported.kept;
  }
  await progress(contacts.length, contacts.length);
  return { made, kept };
}
