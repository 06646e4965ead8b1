'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import type { Changed } from '@/core/shown';
import { CHANGES, COMPANY, INVITE, PRIVACY } from '@/core/words';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';
import { LeftList } from './left-list';

/** What a change of many has done, what it left, and the way back. */
export function ChangedList({ job, of }: { job: string; of: Changed }) {
  const router = useRouter();
  const [problem, setProblem] = useState<Problem | null>(null);
  async function undo() {
    const answer = await call<{ job: string }>(`/api/jobs/${job}/undo`, { json: {} });
    setProblem(answer.ok ? null : answer.problem);
    if (answer.ok) router.push(`/jobs/${answer.value.job}`);
  }
  return (
    <>
      {of.changed > 0 && <p>{(of.of === 'change' ? CHANGES.changed : INVITE.invited)(of.changed)}</p>}
      {of.undone > 0 && <p>{CHANGES.undone(of.undone)}</p>}
      {of.mayUndo && (
        <p>
          <Button variant="quiet" onClick={() => void undo()}>
            {CHANGES.undo}
          </Button>
        </p>
      )}
      <ProblemNote problem={problem} />
      <LeftList left={of.left} count={of.leftCount} title={of.of === 'change' ? CHANGES.left : INVITE.left} />
      <p>
        {of.of === 'change' ? (
          <Link href="/copies">{PRIVACY.toCopies}</Link>
        ) : (
          <Link href="/company/members">{COMPANY.turn.members}</Link>
        )}
      </p>
    </>
  );
}
