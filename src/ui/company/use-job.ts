'use client';
import { useEffect, useState } from 'react';
import { hasEnded, type ShownJob } from '@/core/jobs';
import { listen } from '@/ui/studio/listen';

/** A job as it goes on: follows its server-sent events until it has ended; and asks for them again where they break off. */
export function useJob(first: ShownJob): ShownJob {
  const [job, setJob] = useState(first);
  const ended = hasEnded(job.state);
  useEffect(() => {
    if (!ended) return listen<ShownJob>(`/api/jobs/${first.id}/progress`, setJob);
  }, [first.id, ended]);
  return job;
}
