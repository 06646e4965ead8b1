import type { Metadata } from 'next';
import { shownOrNotFound } from '@/app/request/page-or-not-found';
import { actorOrSignIn } from '@/app/request/session';
import { reachOf } from '@/core/access';
import { listFaults } from '@/server/services/jobs/faults';
import { listJobs } from '@/server/services/jobs/jobs';
import { COMPANY } from '@/core/words';
import { CompanyHead } from '@/ui/company/company-head';
import { Faults } from '@/ui/company/faults';
import { Jobs } from '@/ui/company/jobs';

export const metadata: Metadata = { title: COMPANY.turn.jobs };

export default async function JobsPage() {
  const actor = await actorOrSignIn();
  const jobs = await shownOrNotFound(() => listJobs(actor));
  const faults = reachOf(actor.role, 'fault.read') === 'none' ? [] : await shownOrNotFound(() => listFaults(actor));
  return (
    <>
      <CompanyHead actor={actor} turn="jobs" />
      <Faults faults={faults} timeZone={actor.organisation.timeZone} />
      <Jobs jobs={jobs} timeZone={actor.organisation.timeZone} />
    </>
  );
}
