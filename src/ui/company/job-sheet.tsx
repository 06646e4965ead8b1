'use client';
import Link from 'next/link';
import { hasEnded, TASKS, type ShownJob } from '@/core/jobs';
import { JobProgress } from './job-progress';
import { useJob } from './use-job';

/** One job while it goes on. It may be left: it goes on by itself. */
export function JobSheet({ first }: { first: ShownJob }) {
  const job = useJob(first);
  const made = job.result?.made;
  return (
    <section className="first">
      <h1>{TASKS[job.task].does}</h1>
      <p className="finding">
        {job.state === 'done'
          ? `${made ?? 0} people came in${job.result?.kept ? `; ${job.result.kept} properties were not understood and are kept in the records` : ''}.`
          : hasEnded(job.state)
            ? 'What came in before stays.'
            : 'You may leave this page; the work goes on, and Jobs tells when it is done.'}
      </p>
      <JobProgress job={job} />
      <p>
        <Link href="/people">To the people</Link>
      </p>
    </section>
  );
}
