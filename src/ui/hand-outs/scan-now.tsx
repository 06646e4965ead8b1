'use client';
import { Button } from 'react-bootstrap';
import type { ShownCode } from '@/core/shown';
import { CODES } from '@/core/words';
import { ProblemNote } from '@/ui/studio/problem-note';
import { useAwaitedTest } from './use-awaited-test';

const time = (instant: string) => new Date(instant).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });

/** Waits for a scan of the code by a real phone: the next one is the test and is not counted. */
export function ScanNow({ code }: { code: ShownCode }) {
  const { state, seen, problem, begin } = useAwaitedTest(code, `/api/hand-outs/${code.id}/facts`);
  if (!code.live) return <p className="note">{CODES.scanFrozen}</p>;
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
