import type { Metadata } from 'next';
import { orNotFound } from '@/app/request/page-or-not-found';
import { actorOrSignIn } from '@/app/request/session';
import { hasEnded } from '@/core/jobs';
import { VERDICTS, type ShownRun } from '@/core/roster';
import { ROSTER } from '@/core/words';
import { readJob } from '@/server/services/jobs/jobs';
import { openRun } from '@/server/services/roster/open-run';
import { listTeams } from '@/server/services/roster/teams';
import { RunReview } from '@/ui/roster/run-review';

export const metadata: Metadata = { title: ROSTER.title };

/** While a run is in one of these states a job is at it. */
const WORKING: ReadonlySet<string> = new Set<ShownRun['state']>(['reading', 'running', 'undoing']);

type Params = {
  params: Promise<{ run: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
};

export default async function RunPage({ params, searchParams }: Params) {
  const actor = await actorOrSignIn();
  const { show, from, q } = await searchParams;
  const verdict = VERDICTS.find((each) => each === show) ?? null;
  const words = typeof q === 'string' ? q.slice(0, 200) : '';
  const asked = { verdict, words, from: typeof from === 'string' && /^\d{1,8}$/.test(from) ? Number(from) : 0 };
  let opened = await orNotFound((await params).run, (id) => openRun(actor, id, asked));
  const job = opened.run.job ? await readJob(actor, opened.run.job).catch(() => null) : null;
  // The job may have ended between the two looks.
  if (job && hasEnded(job.state) && WORKING.has(opened.run.state)) opened = await openRun(actor, opened.run.id, asked);
  const teams = await listTeams(actor);
  return <RunReview {...opened} job={job} show={verdict} words={words} teams={teams} />;
}
