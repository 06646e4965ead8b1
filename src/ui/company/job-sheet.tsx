'use client';
import Link from 'next/link';
import { hasEnded, type ShownJob } from '@/core/jobs';
import { FRAME, JOBS, TASK_WORDS } from '@/core/words';
import { JobProgress } from './job-progress';
import { useJob } from './use-job';

/** One job while it goes on. It may be left: it goes on by itself. */
export function JobSheet({ first }: { first: ShownJob }) {
  const job = useJob(first);
  return (
    <section className="first">
      <h1>{TASK_WORDS[job.task].does}</h1>
      <p className="finding">
        {job.state === 'done' ? JOBS.done[job.task] : hasEnded(job.state) ? JOBS.stays : JOBS.mayLeave}
      </p>
      <JobProgress job={job} />
      <p>
        {job.import ? (
          <Link href={`/imports/${job.import}`}>{JOBS.toContacts}</Link>
        ) : job.task === 'prove-cards' ? (
          <Link href="/company/house-style">{JOBS.toHouse}</Link>
        ) : (
          <Link href="/people">{FRAME.toPeople}</Link>
        )}
      </p>
    </section>
  );
}
