import type { Metadata } from 'next';
import { orNotFound } from '@/app/request/page-or-not-found';
import { actorOrSignIn } from '@/app/request/session';
import { readJob } from '@/server/services/jobs/jobs';
import { JOBS } from '@/core/words';
import { JobSheet } from '@/ui/company/job-sheet';

export const metadata: Metadata = { title: JOBS.page };

export default async function JobPage({ params }: { params: Promise<{ job: string }> }) {
  const actor = await actorOrSignIn();
  return <JobSheet first={await orNotFound((await params).job, (id) => readJob(actor, id))} />;
}
