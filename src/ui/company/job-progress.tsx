'use client';
import { useState } from 'react';
import { hasEnded, type ShownJob } from '@/core/jobs';
import type { Problem } from '@/core/errors';
import { JOBS, progressOf } from '@/core/words';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';

/** How far a job is, in words and as a bar, and the way to stop it. */
export function JobProgress({ job }: { job: ShownJob }) {
  const [problem, setProblem] = useState<Problem | null>(null);
  const cancel = async () => {
    const answer = await call(`/api/jobs/${job.id}/cancel`, { method: 'POST' });
    setProblem(answer.ok ? null : answer.problem);
  };
  return (
    <div className="job-progress">
      {!hasEnded(job.state) && job.total !== null && (
        <progress max={job.total} value={job.done} aria-label={progressOf(job)} />
      )}
      <span aria-live="polite">{progressOf(job)}</span>
      {!hasEnded(job.state) && !job.cancelAsked && (
        <button type="button" className="plain" onClick={cancel}>
          {JOBS.stop}
        </button>
      )}
      <ProblemNote problem={job.problem ?? problem} />
    </div>
  );
}
