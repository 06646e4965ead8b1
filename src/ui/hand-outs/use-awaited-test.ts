import { useEffect, useState } from 'react';
import type { Problem } from '@/core/errors';
import { call } from '@/ui/studio/call';

/** How often it is asked whether a scan or a tap came, in milliseconds. */
const ASK_MS = 1_000;

type Tested = { id: string; waits: boolean; testedAt: string | null };

/** Waits for the next scan of a code, or tap on a tag, as its test; `from` tells what is known of it. */
export function useAwaitedTest({ id, waits, testedAt }: Tested, from: string) {
  const [state, setState] = useState<'still' | 'waiting' | 'missed'>(waits ? 'waiting' : 'still');
  const [seen, setSeen] = useState(testedAt);
  const [problem, setProblem] = useState<Problem | null>(null);
  useEffect(() => {
    if (state !== 'waiting') return;
    const timer = setInterval(() => {
      void call<Tested>(from).then((answer) => {
        if (!answer.ok) return;
        const now = answer.value;
        if (now.testedAt !== null && now.testedAt !== seen) {
          setSeen(now.testedAt);
          setState('still');
        } else if (!now.waits) setState('missed');
      });
    }, ASK_MS);
    return () => clearInterval(timer);
  }, [state, seen, from]);
  async function begin() {
    const answer = await call(`/api/hand-outs/${id}/test`, { method: 'POST' });
    setProblem(answer.ok ? null : answer.problem);
    if (answer.ok) setState('waiting');
  }
  return { state, seen, problem, begin };
}
