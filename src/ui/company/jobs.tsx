'use client';
import Link from 'next/link';
import { TASKS, type ShownJob } from '@/core/jobs';
import { instantIn } from '@/ui/studio/instant';
import { JobProgress } from './job-progress';
import { useJob } from './use-job';

const MARKS = { waiting: '○', running: '◐', done: '●', failed: '×', cancelled: '–' } as const;

/** The latest jobs with their progress, live while they go on. */
export function Jobs({ jobs, timeZone }: { jobs: ShownJob[]; timeZone: string }) {
  if (jobs.length === 0) {
    return (
      <section className="first">
        <h2>No jobs yet</h2>
        <p className="finding">
          Work that takes longer, such as taking in a whole address book, stands here with its progress, and can be
          stopped.
        </p>
        <p>
          <Link href="/people">Take in a contact file</Link>
        </p>
      </section>
    );
  }
  return (
    <section className="company">
      <p className="small">Times of {timeZone}. A job that fails is tried five times, waiting longer each time.</p>
      <div className="wide">
        <table className="rows">
          <thead>
            <tr>
              <th>Asked for</th>
              <th>By</th>
              <th>Job</th>
              <th>State</th>
              <th>Progress</th>
              <th className="num">Tries</th>
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
        <Link href={`/jobs/${job.id}`}>{TASKS[job.task].does}</Link>
      </td>
      <td className={`state ${job.state}`}>
        <i aria-hidden="true">{MARKS[job.state]}</i> {job.state}
      </td>
      <td>
        <JobProgress job={job} />
      </td>
      <td className="num">{job.attempts}</td>
    </tr>
  );
}
