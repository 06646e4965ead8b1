import { randomBytes, randomUUID } from 'node:crypto';
import { cleanLine, RecordSchema } from '@/core/record';
import { Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import type { Clock } from '@/server/clock';
import { compute } from '@/server/compute';
import { insertImport } from '@/server/db/jobs/imports';
import { inTenant } from '@/server/db/pool';
import { files } from '@/server/files';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise } from '@/server/services/accounts/authorise';
import { importContact, type Imported } from './import-contact';
import { knowPeople } from './know-people';
import { askForJob } from '@/server/services/jobs/jobs';
import { refuseBeyondQuota } from '@/server/services/organisation/quota';

/** A file up to this size is looked into at once: it may hold a single contact, which opens without review. */
const LOOKED_INTO_BYTES = 6_000_000;
export const FILE_SALT_BYTES = 16;

/**
 * Takes in a contact file of any form that is read. A single contact that is new and was understood whole becomes a record
 * and a first card at once; anything else is read by a job and waits for review. Errors: NOT_ALLOWED, FILE_TOO_LARGE,
 * NOT_A_CONTACT_FILE, CONTACT_FILE_EMPTY, TOO_MANY_JOBS.
 */
export async function takeContactFile(
  actor: Actor,
  bytes: Buffer,
  clock: Clock,
  fileName = '',
): Promise<{ imported: Imported } | { import: string; job: string }> {
  authorise(actor, 'record.create');
  const limitBytes = LIMITS.contactFileBytes;
  if (bytes.length > limitBytes) throw new Refusal({ code: 'FILE_TOO_LARGE', limitBytes });
  const { country } = actor.organisation;
  const single =
    bytes.length <= LOOKED_INTO_BYTES
      ? await compute('single contact', { bytes, country }, { of: actor.organisationId })
      : null;
  if (single) {
    const body = RecordSchema.safeParse(single.record);
    const [known] = body.success ? await inTenant(actor, (tx) => knowPeople(tx, [body.data])) : [];
    if (!known) return { imported: await importContact(actor, single, clock) };
  }
  // The store is shared by content: salted, so that forgetting this file cannot take somebody else’s away.
  const file = await files().put(randomBytes(FILE_SALT_BYTES), bytes);
  return inTenant(actor, async (tx) => {
    const id = randomUUID();
    const at = new Date(clock.now());
    await refuseBeyondQuota(tx, actor.organisationId, bytes.length);
    const job = await askForJob(tx, actor, { task: 'read-contacts', input: { import: id }, total: null }, clock);
    await insertImport(tx, {
      id,
      organisation_id: actor.organisationId,
      user_id: actor.userId,
      file_name: cleanLine(fileName).text.slice(0, 200) || 'contacts',
      file,
      bytes: bytes.length,
      job_id: job,
      created_at: at,
      updated_at: at,
    });
    await recordAudit(tx, actor, 'import.begun', { kind: 'import', id }, clock, { bytes: bytes.length });
    return { import: id, job };
  });
}
