import { LIMITS } from '@/core/limits';
import type { Clock } from '@/server/clock';
import { forgetEndedSessions } from '@/server/db/accounts/accounts';
import { forgetCodes } from '@/server/db/accounts/invitations';
import { forgetEndedPreviews } from '@/server/db/cards/directory';
import { forgetEndedJobs } from '@/server/db/jobs/jobs';
import { forgetEndedReferrals } from '@/server/db/contacts/contacts';
import { forgetLeads } from '@/server/db/contacts/leads';
import { outsideTenants } from '@/server/db/pool';
import { forgetRosters } from '@/server/db/roster/runs';
import { log } from '@/server/log';
import { seeToLeavers } from '@/server/services/roster/leave';
import { remindInvited } from '@/server/services/accounts/invitations';
import { eraseWhatEnded } from '@/server/services/cards/erase';
import { forgetEndedRates } from '@/server/services/accounts/limit-rate';
import { runDuePlans } from '@/server/services/publishing/plans';
import { sortEventsWhenQuiet } from '@/server/intake/record-event';
import { forgetUnnamedFiles } from '@/server/services/media/unnamed-files';
import { forgetOldMail } from '@/server/services/mail/send-mail';
import { tellOfTheDay } from '@/server/services/replies/evening';
import { keepDueFigures } from '@/server/services/response/figures';
import { destroyEndedSecrets } from '@/server/intake/visitor-hash';

/** An ended preview says that it has ended for so long. */
const PREVIEW_MS = 7 * 86_400_000;

/**
 * Everything that is done again and again without anybody asking, by its name. Each goes row by row: a row at fault costs only
 * itself, is logged and counted, and its owner sees it under Company › Jobs.
 */
export const SWEEPS = {
  'visitor secrets': ({ now }: Clock) => destroyEndedSecrets(now()),
  'event inbox': ({ now }: Clock) => sortEventsWhenQuiet(now()),
  plans: (clock: Clock) => runDuePlans(clock),
  leavers: (clock: Clock) => seeToLeavers(clock),
  invitations: (clock: Clock) => remindInvited(clock),
  'mailed codes': ({ now }: Clock) => outsideTenants((db) => forgetCodes(db, new Date(now()))),
  rosters: ({ now }: Clock) =>
    outsideTenants((db) => forgetRosters(db, new Date(now() - LIMITS.rosterDays * 86_400_000))),
  rates: (clock: Clock) => forgetEndedRates(clock),
  sessions: ({ now }: Clock) => outsideTenants((db) => forgetEndedSessions(db, new Date(now()))),
  previews: ({ now }: Clock) =>
    outsideTenants(async (db) => {
      const before = new Date(now() - PREVIEW_MS);
      await forgetEndedPreviews(db, before);
      await forgetEndedReferrals(db, new Date(now()), before);
    }),
  files: ({ now }: Clock) => forgetUnnamedFiles(now()),
  deleted: ({ now }: Clock) => eraseWhatEnded(now()),
  jobs: ({ now }: Clock) => outsideTenants((db) => forgetEndedJobs(db, new Date(now() - LIMITS.jobsDays * 86_400_000))),
  evening: (clock: Clock) => tellOfTheDay(clock),
  leads: ({ now }: Clock) => outsideTenants((db) => forgetLeads(db, new Date(now()), LIMITS.leadMonths)),
  figures: (clock: Clock) => keepDueFigures(clock),
  mail: (clock: Clock) => forgetOldMail(clock),
} satisfies Record<string, (clock: Clock) => Promise<unknown>>;

export type Sweep = keyof typeof SWEEPS;

/** Carries out sweeps one after the other; one that fails as a whole is logged and does not keep the others from their turn. */
export async function sweep(names: Sweep[], clock: Clock): Promise<void> {
  for (const name of names)
    try {
      await SWEEPS[name](clock);
    } catch (error) {
      log.fault(error, { sweep: name }, 'a sweep failed and is tried again');
    }
}
