'use client';
import { useState } from 'react';
import type { ShownPiece } from '@/core/shown';
import { ProblemNote } from '@/ui/studio/problem-note';
import { PaperOptions } from './paper-options';
import { PaperStage } from './paper-stage';
import { PaperUse } from './paper-use';
import { usePiece } from './use-piece';

/** A printed piece: how it is made up, its sides and what their proof says, its file and what was printed of it. `today` as `YYYY-MM-DD`. */
export function PaperScreen({ opened, today }: { opened: ShownPiece; today: string }) {
  const [chosen, setChosen] = useState<number | null>(null);
  const { shown, setShown, made, problem, busy, change, undo, taken } = usePiece(
    `/api/hand-outs/${opened.id}/print`,
    opened,
    opened.piece,
  );
  return (
    <section
      className="paper-screen"
      onKeyDown={(event) => {
        const typing = event.target instanceof HTMLElement && event.target.matches('input, textarea, select');
        if (typing || !undo || event.shiftKey || !(event.ctrlKey || event.metaKey) || event.key !== 'z') return;
        event.preventDefault();
        undo();
      }}
    >
      <div>
        <PaperOptions
          {...{ shown, busy, chosen, undo }}
          piece={made}
          onPiece={change}
          onChosen={setChosen}
          onTaken={(next) => {
            setChosen(null);
            taken(next, next.piece);
          }}
        />
        <ProblemNote problem={problem} />
      </div>
      <PaperStage shown={shown} piece={made} chosen={chosen} onChosen={setChosen} onPiece={change} />
      <PaperUse shown={shown} today={today} onRuns={(runs) => setShown({ ...shown, runs })} />
    </section>
  );
}
