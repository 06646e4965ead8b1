import type { Metadata } from 'next';
import { orNotFound } from '@/app/request/page-or-not-found';
import { actorOrSignIn } from '@/app/request/session';
import { readChanged } from '@/server/services/changes/undo-change';
import { readJob } from '@/server/services/jobs/jobs';
import { readMadeFile } from '@/server/services/pieces/together';
import { readMended } from '@/server/services/wild/run-mend';
import { JOBS } from '@/core/words';
import { JobSheet } from '@/ui/company/job-sheet';

export const metadata: Metadata = { title: JOBS.page };

export default async function JobPage({ params }: { params: Promise<{ job: string }> }) {
  const actor = await actorOrSignIn();
  const first = await orNotFound((await params).job, (id) => readJob(actor, id));
  const [made, mended] = [await readMadeFile(actor, first.id), await readMended(actor, first.id)];
  const changed = await readChanged(actor, first.id);
  return <JobSheet key={first.id} first={first} made={made} mended={mended} changed={changed} />;
}
