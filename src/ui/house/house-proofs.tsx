'use client';
import type { FailingCards } from '@/core/shown';
import { useEffect, useState } from 'react';
import { hasEnded, type ShownJob } from '@/core/jobs';
import { HOUSE } from '@/core/words';
import { JobProgress } from '@/ui/company/job-progress';
import { useJob } from '@/ui/company/use-job';
import { call } from '@/ui/studio/call';
import { instantIn } from '@/ui/studio/instant';
import { countOf, FailingList } from './house-effects';

export type Proofs = { job: ShownJob | null; failing: FailingCards[] };

/** The proofs of all cards under the house style that holds: how far they are while they are made, then which fail. */
export const HouseProofs = ({ first, zone }: { first: Proofs; zone: string }) =>
  first.job && <OfJob key={first.job.id} first={first} begun={first.job} zone={zone} />;

function OfJob({ first, begun, zone }: { first: Proofs; begun: ShownJob; zone: string }) {
  const job = useJob(begun);
  const [failing, setFailing] = useState(first.failing);
  const ended = hasEnded(job.state);
  const begunEnded = hasEnded(begun.state);
  useEffect(() => {
    if (!ended || begunEnded) return;
    void call<Proofs>('/api/house/proofs').then((answer) => {
      if (answer.ok) setFailing(answer.value.failing);
    });
  }, [ended, begunEnded]);
  const count = countOf(failing);
  return (
    <section className="house-proofs" aria-label={HOUSE.proofs}>
      <h2 className="caps">{HOUSE.proofs}</h2>
      {ended && job.state === 'done' ? (
        <p className={count > 0 ? 'problem' : ''}>
          {count === 0 ? HOUSE.allPass(job.done) : HOUSE.someFail(count, job.done)}{' '}
          <small>{instantIn(zone, job.updated)}</small>
        </p>
      ) : (
        <JobProgress job={job} />
      )}
      {ended && <FailingList failing={failing} />}
    </section>
  );
}
