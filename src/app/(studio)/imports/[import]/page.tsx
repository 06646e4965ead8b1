import type { Metadata } from 'next';
import { orNotFound } from '@/app/request/page-or-not-found';
import { actorOrSignIn } from '@/app/request/session';
import { VERDICTS } from '@/core/imports';
import { hasEnded } from '@/core/jobs';
import { IMPORT } from '@/core/words';
import { readJob } from '@/server/services/jobs/jobs';
import { openImport } from '@/server/services/imports/review-import';
import { ImportReview } from '@/ui/contacts/import-review';

export const metadata: Metadata = { title: IMPORT.page };

export default async function ImportPage({
  params,
  searchParams,
}: {
  params: Promise<{ import: string }>;
  searchParams: Promise<{ show?: string; from?: string }>;
}) {
  const actor = await actorOrSignIn();
  const asked = await searchParams;
  const verdict = VERDICTS.find((each) => each === asked.show) ?? null;
  const from = asked.from && /^\d{1,6}$/.test(asked.from) ? Number(asked.from) : 0;
  const open = (id: string) => openImport(actor, id, { verdict, from });
  let opened = await orNotFound((await params).import, open);
  const job = opened.job ? await readJob(actor, opened.job).catch(() => null) : null;
  // The job may have ended between the two looks.
  if (job && hasEnded(job.state)) opened = await open(opened.id);
  return (
    <ImportReview opened={opened} job={job} show={verdict} key={`${opened.id} ${opened.state} ${verdict} ${from}`} />
  );
}
