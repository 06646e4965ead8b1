'use client';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { COMPANY } from '@/core/words';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';

/** Everything of an organisation as one file, for its owners. */
export function TakeAlong({ alone }: { alone: boolean }) {
  const [problem, setProblem] = useState<Problem | null>(null);
  const [begun, setBegun] = useState(false);
  async function download() {
    const fresh = await call('/api/confirm');
    setProblem(fresh.ok ? null : fresh.problem);
    setBegun(fresh.ok);
    if (!fresh.ok) return;
    const link = Object.assign(document.createElement('a'), { href: '/api/organisation/archive', download: '' });
    link.click();
  }
  return (
    <section className="company take-along" aria-labelledby="take-along">
      <h2 id="take-along">{COMPANY.takeAlong}</h2>
      <p className="small">{alone ? COMPANY.takeAlongAlone : COMPANY.takeAlongNote}</p>
      <ProblemNote problem={problem} />
      <Button variant="quiet" onClick={() => void download()}>
        {COMPANY.download}
      </Button>{' '}
      <span role="status">{begun ? COMPANY.downloadBegun : ''}</span>
    </section>
  );
}
