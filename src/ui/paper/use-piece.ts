'use client';
import { useRef, useState } from 'react';
import type { Problem } from '@/core/errors';
import { call } from '@/ui/studio/call';

/** How a piece is made up, kept at each change, and what the server shows of it then: of several changes the last one's answer counts. */
export function usePiece<Shown, Made>(path: string, opened: Shown, first: Made) {
  const [shown, setShown] = useState(opened);
  const [made, setMade] = useState(first);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);
  const asked = useRef(0);
  async function change(next: Made) {
    const at = (asked.current += 1);
    setMade(next);
    setBusy(true);
    const answer = await call<Shown>(path, { method: 'PUT', json: next as object });
    if (at !== asked.current) return;
    setBusy(false);
    setProblem(answer.ok ? null : answer.problem);
    if (answer.ok) setShown(answer.value);
  }
  return { shown, setShown, made, problem, busy, change: (next: Made) => void change(next) };
}
