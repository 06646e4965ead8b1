import { randomUUID } from 'node:crypto';
import { insertJob } from '@/server/db/jobs/jobs';
import { keepMend } from '@/server/db/wild/mends';
import { inTenant } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';
import { listTags, makeTags, supplierList, tagsWritten } from '@/server/services/hand-outs/tag-rows';
import { cancelJob } from '@/server/services/jobs/jobs';
import { askToMend, previewMend, type MendAsked } from '@/server/services/wild/mend';
import { privacyMap, publicAbout } from '@/server/services/wild/privacy-map';
import { askToUndoMend, readMended } from '@/server/services/wild/run-mend';
import type { Attempt } from './attempts';
import { clock } from './belongings';

const of = (recordId: string): MendAsked => ({ records: [recordId], privacies: ['home'], act: 'take off' });

/** A job of a member's that has mended something of a record. */
export async function mendJob(
  { organisationId: organisation_id, userId: user_id }: Actor,
  recordId: string,
): Promise<string> {
  const id = randomUUID();
  await inTenant(organisation_id, async (tx) => {
    const job = { id, organisation_id, user_id, task: 'mend-privacy' as const, input: {}, total: 1 };
    await insertJob(tx, { ...job, at: new Date(clock.now()) });
    const row = { id: randomUUID(), organisation_id, job_id: id, record_id: recordId, card_id: null };
    await keepMend(tx, { ...row, was: { uses: {} }, problem: null });
  });
  return id;
}

/** Attempts at the privacy map and at tags of several people. */
export const PRIVACY_ATTEMPTS: Record<string, Attempt> = {
  privacyMap: { action: 'privacy.read', run: (actor) => privacyMap(actor, {}) },
  publicAbout: { action: 'privacy.read', of: true, run: (actor, { recordId }) => publicAbout(actor, recordId) },
  previewMend: { action: 'privacy.read', of: true, run: (actor, { recordId }) => previewMend(actor, of(recordId)) },
  askToMend: {
    action: 'privacy.read',
    of: true,
    act: 'job.asked',
    run: async (actor, { recordId }) => cancelJob(actor, (await askToMend(actor, of(recordId), clock)).job, clock),
  },
  askToUndoMend: {
    action: 'privacy.read',
    act: 'job.asked',
    run: async (actor, { recordId }) => {
      const mended = await mendJob(actor, recordId);
      try {
        await cancelJob(actor, (await askToUndoMend(actor, mended, clock)).job, clock);
      } finally {
        // There is an end to how many may wait.
        if (!actor.mustChangePassword) await cancelJob(actor, mended, clock);
      }
    },
  },
  readMended: { action: 'job.read', of: true, run: (actor, { job }) => readMended(actor, job) },
  makeTags: {
    action: 'hand-out.make',
    of: true,
    act: 'tags.made',
    run: (actor, { recordId }) => makeTags(actor, { records: [recordId], placement: 'Badges', what: 'card' }, clock),
  },
  listTags: { action: 'hand-out.read', run: (actor) => listTags(actor, null) },
  supplierList: {
    action: 'hand-out.read',
    run: async (actor) => supplierList(actor, (await listTags(actor, null)).placements[0]!.id, 'csv'),
  },
  tagsWritten: {
    action: 'hand-out.make',
    of: true,
    act: 'tags.written',
    run: (actor, { tag }) => tagsWritten(actor, [tag], clock),
  },
};
