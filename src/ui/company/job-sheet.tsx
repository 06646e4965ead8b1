'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect } from 'react';
import { sayFinding } from '@/core/findings';
import { figure } from '@/core/language';
import { LIMITS } from '@/core/limits';
import { hasEnded, type ShownJob } from '@/core/jobs';
import type { Changed, MadeFile, Mended } from '@/core/shown';
import { FRAME, JOBS, PRIVACY, TASK_WORDS } from '@/core/words';
import { ChangedList } from '@/ui/people/changed-list';
import { MendedList } from '@/ui/privacy/mended-list';
import { JobProgress } from './job-progress';
import { useJob } from './use-job';

type Props = { first: ShownJob; made: MadeFile | null; mended: Mended | null; changed: Changed | null };

/** One job while it goes on. It may be left: it goes on by itself. */
export function JobSheet({ first, made, mended, changed }: Props) {
  const job = useJob(first);
  const router = useRouter();
  const ended = hasEnded(job.state) && !hasEnded(first.state);
  // What it has made is read once it has ended.
  useEffect(() => {
    if (ended) router.refresh();
  }, [ended, router]);
  return (
    <section className="first">
      <h1>{TASK_WORDS[job.task].does}</h1>
      <p className="finding">
        {job.state === 'done' ? JOBS.done[job.task] : hasEnded(job.state) ? JOBS.stays : JOBS.mayLeave}
      </p>
      <JobProgress job={job} />
      {made && hasEnded(job.state) && <Made job={job.id} made={made} />}
      {mended && hasEnded(job.state) && <MendedList job={job.id} mended={mended} />}
      {changed && hasEnded(job.state) && <ChangedList job={job.id} of={changed} />}
      <p>
        {job.import ? (
          <Link href={`/imports/${job.import}`}>{JOBS.toContacts}</Link>
        ) : job.roster ? (
          <Link href={`/roster/${job.roster}`}>{JOBS.toRoster}</Link>
        ) : job.task === 'prove-cards' ? (
          <Link href="/company/house-style">{JOBS.toHouse}</Link>
        ) : mended ? (
          <Link href="/privacy">{PRIVACY.toMap}</Link>
        ) : (
          <Link href="/people">{FRAME.toPeople}</Link>
        )}
      </p>
    </section>
  );
}

/** The file that a job has made, and whom it had to leave out. */
function Made({ job, made: { name, bytes, leftOut } }: { job: string; made: MadeFile }) {
  return (
    <>
      {bytes === null ? (
        <p className="attention">{JOBS.noFile}</p>
      ) : (
        <p>
          <a className="btn btn-primary" href={`/api/jobs/${job}/file`} download>
            {JOBS.download(name)}
          </a>{' '}
          <span className="note">{JOBS.fileNote(figure(Math.round(bytes / 1_000)), LIMITS.jobsDays)}</span>
        </p>
      )}
      {leftOut.length > 0 && (
        <>
          <h2 className="caps">{JOBS.leftOut}</h2>
          <ul>
            {leftOut.map(({ name, finding }, at) => (
              <li key={at}>
                <strong>{name ?? JOBS.somebody}</strong> {finding ? sayFinding(finding) : JOBS.noCard}
              </li>
            ))}
          </ul>
        </>
      )}
    </>
  );
}
