'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { sayFinding } from '@/core/findings';
import type { Mended } from '@/core/shown';
import { JOBS, PRIVACY } from '@/core/words';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';

/** What a job has mended, entry by entry, and the way back. */
export function MendedList({ job, mended: { rows, mayUndo } }: { job: string; mended: Mended }) {
  const router = useRouter();
  const [problem, setProblem] = useState<Problem | null>(null);
  async function undo() {
    const answer = await call<{ job: string }>(`/api/jobs/${job}/undo`, { json: {} });
    setProblem(answer.ok ? null : answer.problem);
    if (answer.ok) router.push(`/jobs/${answer.value.job}`);
  }
  return (
    <>
      {mayUndo && (
        <p>
          <Button variant="quiet" onClick={() => void undo()}>
            {PRIVACY.undo}
          </Button>
        </p>
      )}
      <ProblemNote problem={problem} />
      {rows.length > 0 && <h2 className="caps">{PRIVACY.mendedList}</h2>}
      <ul>
        {rows.map(({ recordId, person, card, finding, undone }, at) => (
          <li key={at}>
            <strong>
              <Link href={card ? `/cards/${card.id}` : `/people/${recordId}`}>
                {person || JOBS.somebody}
                {card && `, ${card.audience}`}
              </Link>
            </strong>{' '}
            {finding ? sayFinding(finding) : undone ? PRIVACY.undone : PRIVACY.mended}
          </li>
        ))}
      </ul>
      <p>
        <Link href="/copies">{PRIVACY.toCopies}</Link>
      </p>
    </>
  );
}
