import type { Task } from '@/core/jobs';
import { proveHouse } from '@/server/services/house/house-proofs';
import { invitePeople } from '@/server/services/accounts/invitations';
import { changeMany } from '@/server/services/changes/run-change';
import { undoChange } from '@/server/services/changes/undo-change';
import type { RunningJob } from '@/server/services/jobs/run-job';
import { packFiles } from '@/server/services/pieces/pack';
import { printTogether } from '@/server/services/pieces/together';
import { reviewRoster } from '@/server/services/roster/review-rows';
import { runRoster } from '@/server/services/roster/run-roster';
import { undoRoster } from '@/server/services/roster/undo-roster';
import { mendPrivacy, undoMend } from '@/server/services/wild/run-mend';
import { readImport, takeContacts, undoContacts } from '@/server/services/imports/run-import';

/** Every task by its name: what runs a job that was asked for under it. */
export const JOB_TASKS: Record<Task, (running: RunningJob) => Promise<Record<string, number>>> = {
  'read-contacts': readImport,
  'take-contacts': takeContacts,
  'undo-contacts': undoContacts,
  'prove-cards': proveHouse,
  'pack-files': packFiles,
  'change-many': changeMany,
  'invite-people': invitePeople,
  'undo-change': undoChange,
  'print-cards': printTogether,
  'mend-privacy': mendPrivacy,
  'undo-mend': undoMend,
  'review-roster': reviewRoster,
  'run-roster': runRoster,
  'undo-roster': undoRoster,
};
