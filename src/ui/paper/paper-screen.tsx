'use client';
import { useRef, useState } from 'react';
import type { Problem } from '@/core/errors';
import type { Piece } from '@/core/print';
import type { ShownPiece } from '@/core/shown';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';
import { PaperOptions } from './paper-options';
import { PaperStage } from './paper-stage';
import { PaperUse } from './paper-use';

/** A printed piece: how it is made up, its sides and what their proof says, its file and what was printed of it. `today` as `YYYY-MM-DD`. */
export function PaperScreen({ opened, today }: { opened: ShownPiece; today: string }) {
  const [shown, setShown] = useState(opened);
  const [piece, setPiece] = useState(opened.piece);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);
  const asked = useRef(0);
  async function change(next: Piece) {
    const at = (asked.current += 1);
    setPiece(next);
    setBusy(true);
    const answer = await call<ShownPiece>(`/api/hand-outs/${shown.id}/print`, { method: 'PUT', json: next });
    if (at !== asked.current) return;
    setBusy(false);
    setProblem(answer.ok ? null : answer.problem);
    if (answer.ok) setShown(answer.value);
  }
  return (
    <section className="paper-screen">
      <div>
        <PaperOptions shown={shown} piece={piece} busy={busy} onPiece={(next) => void change(next)} />
        <ProblemNote problem={problem} />
      </div>
      <PaperStage shown={shown} />
      <PaperUse shown={shown} today={today} onRuns={(runs) => setShown({ ...shown, runs })} />
    </section>
  );
}
