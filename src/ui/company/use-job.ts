'use client';
import { useEffect, useState } from 'react';
import { hasEnded, type ShownJob } from '@/core/jobs';

/** A job as it goes on: follows its server-sent events until it has ended; the browser reconnects by itself. */
export function useJob(first: ShownJob): ShownJob {
  const [job, setJob] = useState(first);
  const ended = hasEnded(job.state);
  useEffect(() => {
    if (ended) return;
    const events = new EventSource(`/api/jobs/${first.id}/progress`);
    events.onmessage = (event) => setJob(JSON.parse(String(event.data)) as ShownJob);
    return () => events.close();
  }, [first.id, ended]);
  return job;
}
