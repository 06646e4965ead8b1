import type { Metadata } from 'next';
import { shownOrNotFound } from '@/app/request/page-or-not-found';
import { actorOrSignIn } from '@/app/request/session';
import { listJobs } from '@/server/services/jobs';
import { COMPANY } from '@/core/messages';
import { CompanyHead } from '@/ui/company/company-head';
import { Jobs } from '@/ui/company/jobs';

export const metadata: Metadata = { title: COMPANY.turn.jobs };

export default async function JobsPage() {
  const actor = await actorOrSignIn();
  const jobs = await shownOrNotFound(() => listJobs(actor));
  return (
    <>
      <CompanyHead role={actor.role} turn="jobs" />
      <Jobs jobs={jobs} timeZone={actor.organisation.timeZone} />
    </>
  );
}
