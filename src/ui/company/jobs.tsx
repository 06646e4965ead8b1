'use client';
import Link from 'next/link';
import type { ShownJob } from '@/core/jobs';
import { JOBS, TASK_WORDS } from '@/core/words';
import { instantIn } from '@/ui/studio/instant';
import { JobProgress } from './job-progress';
import { useJob } from './use-job';

const MARKS = { waiting: '○', running: '◐', done: '●', failed: '×', cancelled: '–' } as const;

/** The latest jobs with their progress, live while they go on. */
export function Jobs({ jobs, timeZone }: { jobs: ShownJob[]; timeZone: string }) {
  if (jobs.length === 0) {
    return (
      <section className="first">
        <h2>{JOBS.noneTitle}</h2>
        <p className="finding">{JOBS.noneText}</p>
        <p>
          <Link href="/people">{JOBS.takeIn}</Link>
        </p>
      </section>
    );
  }
  return (
    <section className="company">
      <p className="small">{JOBS.note(timeZone)}</p>
      <div className="wide">
        <table className="rows">
          <thead>
            <tr>
              <th>{JOBS.column.asked}</th>
              <th>{JOBS.column.by}</th>
              <th>{JOBS.column.job}</th>
              <th>{JOBS.column.state}</th>
              <th>{JOBS.column.progress}</th>
              <th className="num">{JOBS.column.tries}</th>
            </tr>
          </thead>
          <tbody>
            {jobs.map((job) => (
              <JobRow key={job.id} first={job} timeZone={timeZone} />
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}

function JobRow({ first, timeZone }: { first: ShownJob; timeZone: string }) {
  const job = useJob(first);
  return (
    <tr>
      <td className="mono">
        <time dateTime={job.created}>{instantIn(timeZone, job.created)}</time>
      </td>
      <td>{job.who}</td>
      <td>
        <Link href={`/jobs/${job.id}`}>{TASK_WORDS[job.task].does}</Link>
      </td>
      <td className={`state ${job.state}`}>
        <i aria-hidden="true">{MARKS[job.state]}</i> {JOBS.state[job.state]}
      </td>
      <td>
        <JobProgress job={job} />
      </td>
      <td className="num">{job.attempts}</td>
    </tr>
  );
}
