'use client';
import { useRef, useState } from 'react';
import type { Problem } from '@/core/errors';
import { call } from '@/ui/studio/call';

/** So many changes are taken back one after the other. */
const MOST_BACK = 50;

/** How a piece is made up, kept at each change, and what the server shows of it then: of several changes the last one's answer counts. */
export function usePiece<Shown, Made>(path: string, opened: Shown, first: Made) {
  const [shown, setShown] = useState(opened);
  const [made, setMade] = useState(first);
  const [past, setPast] = useState<Made[]>([]);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);
  const asked = useRef(0);
  async function send(next: Made) {
    const at = (asked.current += 1);
    setMade(next);
    setBusy(true);
    const answer = await call<Shown>(path, { method: 'PUT', json: next as object });
    if (at !== asked.current) return;
    setBusy(false);
    setProblem(answer.ok ? null : answer.problem);
    if (answer.ok) setShown(answer.value);
  }
  return {
    ...{ shown, setShown, made, problem, busy },
    change: (next: Made) => {
      setPast([...past, made].slice(-MOST_BACK));
      void send(next);
    },
    /** Takes the last change back; null where there is none. */
    undo:
      past.length === 0
        ? null
        : () => {
            setPast(past.slice(0, -1));
            void send(past.at(-1)!);
          },
    /** What the server made of something else that was given: what came before cannot be taken back across it. */
    taken: (next: Shown, own: Made) => {
      asked.current += 1;
      setPast([]);
      setBusy(false);
      setProblem(null);
      setMade(own);
      setShown(next);
    },
  };
}
