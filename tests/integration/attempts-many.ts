import { randomUUID } from 'node:crypto';
import { insertUser } from '@/server/db/accounts/accounts';
import { insertInvitation } from '@/server/db/accounts/invitations';
import { insertRecord } from '@/server/db/cards/records';
import { inTenant } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';
import { askToInvite, inviteAgain, withdrawInvitation } from '@/server/services/accounts/invitations';
import { readMine } from '@/server/services/cards/mine';
import { cancelJob } from '@/server/services/jobs/jobs';
import { previewChange } from '@/server/services/changes/plan';
import { askToChange } from '@/server/services/changes/run-change';
import { askToUndo, readChanged } from '@/server/services/changes/undo-change';
import { askPack } from '@/server/services/pieces/pack';
import type { Attempt } from './attempts';
import { mendJob } from './attempts-privacy';
import { clock, next } from './belongings';

const unlessClosed = (asked: Promise<unknown>): Promise<unknown> =>
  asked.catch((error: { problem?: { code: string } }) => {
    if (error.problem?.code !== 'MAIL_CLOSED') throw error;
  });

/** Somebody of a member's organisation who was invited. */
async function invited({ organisationId: organisation_id, userId }: Actor): Promise<string> {
  const [id, record_id] = [randomUUID(), randomUUID()];
  const name = { prefix: '', given: 'Ros', additional: '', family: '', suffix: '', written: '' };
  const at = new Date(clock.now());
  await inTenant(organisation_id, async (tx) => {
    await insertRecord(tx, {
      ...{ id: record_id, organisation_id, updated_at: at, written_name: 'Ros' },
      body: { name, details: [], kept: [] },
    });
    await insertUser(tx, {
      ...{ id, organisation_id, email: `invited-${next()}@heath.example`, password_hash: '!', name: 'Ros' },
      ...{ role: 'holder', own_record: record_id, must_change_password: false },
    });
    const row = { organisation_id, user_id: id, record_id, language: 'en', invited_by: userId, sent_at: at };
    await insertInvitation(tx, row);
  });
  return id;
}

/** Attempts at what is done for many people at once. */
export const MANY_ATTEMPTS: Record<string, Attempt> = {
  askPack: {
    action: 'hand-out.make',
    of: true,
    act: 'pack.asked',
    run: async (actor, { recordId }) => {
      const wanted = {
        records: [recordId],
        kinds: ['contact file' as const],
        pattern: '{name}',
        version: '3.0' as const,
      };
      const { job } = await askPack(actor, wanted, clock);
      await cancelJob(actor, job, clock);
    },
  },
  previewChange: {
    action: 'card.publish',
    of: true,
    run: (actor, { recordId }) => previewChange(actor, { records: [recordId], change: { of: 'codes' } }),
  },
  askToChange: {
    action: 'card.publish',
    of: true,
    act: 'people.changed',
    run: async (actor, { recordId }) => {
      const { job } = await askToChange(actor, { records: [recordId], change: { of: 'codes' } }, clock);
      await cancelJob(actor, job, clock);
    },
  },
  askToUndo: {
    action: 'privacy.read',
    act: 'job.asked',
    run: async (actor, { recordId }) => {
      const mended = await mendJob(actor, recordId);
      try {
        await cancelJob(actor, (await askToUndo(actor, mended, clock)).job, clock);
      } finally {
        // There is an end to how many may wait.
        if (!actor.mustChangePassword) await cancelJob(actor, mended, clock);
      }
    },
  },
  // No mail leaves here: whoever gets as far as that was let in.
  askToInvite: {
    action: 'member.invite',
    run: (actor, { recordId }) => unlessClosed(askToInvite(actor, [recordId], clock)),
  },
  inviteAgain: {
    action: 'member.invite',
    run: async (actor) => unlessClosed(inviteAgain(actor, await invited(actor), clock)),
  },
  withdrawInvitation: {
    action: 'member.invite',
    act: 'member.uninvited',
    run: async (actor) => withdrawInvitation(actor, await invited(actor), clock),
  },
  readMine: { action: 'card.read', run: (actor, { recordId }) => readMine({ ...actor, ownRecord: recordId }) },
  readChanged: { action: 'job.read', of: true, run: (actor, { job }) => readChanged(actor, job) },
};
