'use client';
import { Button } from 'react-bootstrap';
import type { ShownTag } from '@/core/shown';
import { TAGS } from '@/core/words';
import { useAwaitedTest } from '@/ui/hand-outs/use-awaited-test';
import { ProblemNote } from '@/ui/studio/problem-note';

const time = (instant: string) => new Date(instant).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });

/** Waits for a tap on the tag by a real phone: the next one is the test and is not counted. */
export function TagTest({ shown }: { shown: ShownTag }) {
  const { state, seen, problem, begin } = useAwaitedTest(shown, `/api/hand-outs/${shown.id}/tag`);
  if (!shown.tests) return <p className="note">{TAGS.tapOwn}</p>;
  if (!shown.mayWrite) return null;
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
