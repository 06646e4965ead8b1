'use client';
import Link from 'next/link';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { ENTRY } from '@/core/words';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';

/** Whoever reads an address says by a press that it is theirs; programs that open links press nothing. */
export function ConfirmAddress({ token, email }: { token: string; email: string }) {
  const [problem, setProblem] = useState<Problem | null>(null);
  const [state, setState] = useState<'asked' | 'busy' | 'done'>('asked');
  async function confirm() {
    setState('busy');
    const answer = await call('/api/address/confirm', { json: { token } });
    setProblem(answer.ok ? null : answer.problem);
    setState(answer.ok ? 'done' : 'asked');
  }
  return (
    <main className="entry">
      <p className="word">{ENTRY.product}</p>
      <h1>{state === 'done' ? ENTRY.confirmed : ENTRY.confirmAsk}</h1>
      <p className="whose">{email}</p>
      {state === 'done' ? (
        <Link className="btn btn-primary" href="/">
          {ENTRY.toStudio}
        </Link>
      ) : (
        <Button disabled={state === 'busy'} onClick={() => void confirm()}>
          {ENTRY.confirm}
        </Button>
      )}
      <ProblemNote problem={problem} />
    </main>
  );
}
