import { cancelJob } from '@/server/services/jobs/jobs';
import { previewChange } from '@/server/services/changes/plan';
import { askToChange } from '@/server/services/changes/run-change';
import { askToUndo, readChanged } from '@/server/services/changes/undo-change';
import { askPack } from '@/server/services/pieces/pack';
import type { Attempt } from './attempts';
import { mendJob } from './attempts-privacy';
import { clock } from './belongings';

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
  readChanged: { action: 'job.read', of: true, run: (actor, { job }) => readChanged(actor, job) },
};
