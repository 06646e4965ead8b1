'use client';
import { useState } from 'react';
import type { Problem } from '@/core/errors';
import { ACCOUNT } from '@/core/words';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';

/** Has the letter sent once more by which an address is confirmed. Apart from forms, since it may stand above every screen. */
export function AskAgain() {
  const [problem, setProblem] = useState<Problem | null>(null);
  const [sent, setSent] = useState(false);
  async function again() {
    const answer = await call('/api/address/again', { method: 'POST' });
    setProblem(answer.ok ? null : answer.problem);
    setSent(answer.ok);
  }
  return (
    <>
      {sent ? (
        <span role="status">{ACCOUNT.sentAgain}</span>
      ) : (
        <button type="button" className="btn btn-quiet btn-sm" onClick={() => void again()}>
          {ACCOUNT.sendAgain}
        </button>
      )}
      <ProblemNote problem={problem} />
    </>
  );
}
