'use client';
import { useEffect, useState } from 'react';
import { Button } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import type { ShownCode } from '@/core/shown';
import { CODES } from '@/core/words';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';

/** How often it is asked whether a scan came, in milliseconds. */
const ASK_MS = 1_000;

const time = (instant: string) => new Date(instant).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });

/** Waits for a scan of the code by a real phone: the next one is the test and is not counted. */
export function ScanNow({ code }: { code: ShownCode }) {
  const [state, setState] = useState<'still' | 'waiting' | 'missed'>(code.waits ? 'waiting' : 'still');
  const [seen, setSeen] = useState(code.testedAt);
  const [problem, setProblem] = useState<Problem | null>(null);
  useEffect(() => {
    if (state !== 'waiting') return;
    const timer = setInterval(() => {
      void call<ShownCode>(`/api/hand-outs/${code.id}/facts`).then((answer) => {
        if (!answer.ok) return;
        const { testedAt, waits } = answer.value;
        if (testedAt !== null && testedAt !== seen) {
          setSeen(testedAt);
          setState('still');
        } else if (!waits) setState('missed');
      });
    }, ASK_MS);
    return () => clearInterval(timer);
  }, [state, seen, code.id]);
  if (!code.live) return <p className="note">{CODES.scanFrozen}</p>;
  async function begin() {
    const answer = await call(`/api/hand-outs/${code.id}/test`, { method: 'POST' });
    setProblem(answer.ok ? null : answer.problem);
    if (answer.ok) setState('waiting');
  }
  return (
    <div className="scan-now">
      <Button variant="quiet" disabled={state === 'waiting'} onClick={() => void begin()}>
        {CODES.scanNow}
      </Button>
      <span role="status">
        {state === 'waiting'
          ? `${CODES.scanNowNote} ${CODES.scanWaits}`
          : state === 'missed'
            ? CODES.scanNotSeen
            : seen !== null && CODES.scanSeen(time(seen))}
      </span>
      <ProblemNote problem={problem} />
    </div>
  );
}
