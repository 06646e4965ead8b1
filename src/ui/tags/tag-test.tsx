'use client';
import { useEffect, useState } from 'react';
import { Button } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import type { ShownTag } from '@/core/shown';
import { TAGS } from '@/core/words';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';

/** How often it is asked whether a tap came, in milliseconds. */
const ASK_MS = 1_000;
const time = (instant: string) => new Date(instant).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });

/** Waits for a tap on the tag by a real phone: the next one is the test and is not counted. */
export function TagTest({ shown }: { shown: ShownTag }) {
  const [state, setState] = useState<'still' | 'waiting' | 'missed'>(shown.waits ? 'waiting' : 'still');
  const [seen, setSeen] = useState(shown.testedAt);
  const [problem, setProblem] = useState<Problem | null>(null);
  useEffect(() => {
    if (state !== 'waiting') return;
    const timer = setInterval(() => {
      void call<ShownTag>(`/api/hand-outs/${shown.id}/tag`).then((answer) => {
        if (!answer.ok) return;
        const { testedAt, waits } = answer.value;
        if (testedAt !== null && testedAt !== seen) {
          setSeen(testedAt);
          setState('still');
        } else if (!waits) setState('missed');
      });
    }, ASK_MS);
    return () => clearInterval(timer);
  }, [state, seen, shown.id]);
  if (!shown.tests) return <p className="note">{TAGS.tapOwn}</p>;
  if (!shown.mayWrite) return null;
  async function begin() {
    const answer = await call(`/api/hand-outs/${shown.id}/test`, { method: 'POST' });
    setProblem(answer.ok ? null : answer.problem);
    if (answer.ok) setState('waiting');
  }
  return (
    <div className="scan-now">
      <Button variant="quiet" disabled={state === 'waiting'} onClick={() => void begin()}>
        {TAGS.tapNow}
      </Button>
      <span role="status">
        {state === 'waiting'
          ? `${TAGS.tapNote} ${TAGS.tapWaits}`
          : state === 'missed'
            ? TAGS.tapNotSeen
            : seen !== null && TAGS.tapSeen(time(seen))}
      </span>
      <ProblemNote problem={problem} />
    </div>
  );
}
