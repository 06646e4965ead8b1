'use client';
import type { ShownPiece } from '@/core/shown';
import { ProblemNote } from '@/ui/studio/problem-note';
import { PaperOptions } from './paper-options';
import { PaperStage } from './paper-stage';
import { PaperUse } from './paper-use';
import { usePiece } from './use-piece';

/** A printed piece: how it is made up, its sides and what their proof says, its file and what was printed of it. `today` as `YYYY-MM-DD`. */
export function PaperScreen({ opened, today }: { opened: ShownPiece; today: string }) {
  const { shown, setShown, made, problem, busy, change } = usePiece(
    `/api/hand-outs/${opened.id}/print`,
    opened,
    opened.piece,
  );
  return (
    <section className="paper-screen">
      <div>
        <PaperOptions shown={shown} piece={made} busy={busy} onPiece={change} />
        <ProblemNote problem={problem} />
      </div>
      <PaperStage shown={shown} />
      <PaperUse shown={shown} today={today} onRuns={(runs) => setShown({ ...shown, runs })} />
    </section>
  );
}
