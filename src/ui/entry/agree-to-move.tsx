'use client';
import Link from 'next/link';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { ENTRY } from '@/core/words';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';

type State = 'asked' | 'busy' | 'stopped' | 'waits' | 'moved';

/** One end of a move of an account agrees to it or stops it. */
export function AgreeToMove({ token, email, agreed }: { token: string; email: string; agreed: boolean }) {
  const [problem, setProblem] = useState<Problem | null>(null);
  const [state, setState] = useState<State>(agreed ? 'waits' : 'asked');
  async function answer(agrees: boolean) {
    setState('busy');
    const told = await call<{ state: State }>('/api/address/move', { json: { token, agrees } });
    setProblem(told.ok ? null : told.problem);
    setState(told.ok ? told.value.state : 'asked');
  }
  const asked = state === 'asked' || state === 'busy';
  return (
    <main className="entry">
      <p className="word">{ENTRY.product}</p>
      <h1>{ENTRY.moveAsk}</h1>
      <p className="whose">{email}</p>
      {!asked && <p role="status">{ENTRY.moveState[state]}</p>}
      {(asked || state === 'waits') && (
        <div className="pair">
          {asked && (
            <Button disabled={state === 'busy'} onClick={() => void answer(true)}>
              {ENTRY.agree}
            </Button>
          )}
          <Button variant="quiet" disabled={state === 'busy'} onClick={() => void answer(false)}>
            {ENTRY.stopMove}
          </Button>
        </div>
      )}
      {state === 'moved' && (
        <Link className="btn btn-primary" href="/">
          {ENTRY.toStudio}
        </Link>
      )}
      <ProblemNote problem={problem} />
    </main>
  );
}
