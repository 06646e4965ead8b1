'use client';
import { useState } from 'react';
import { Form } from 'react-bootstrap';
import { BLEED_MM, roomsOf, sizeOf, trimOf } from '@/core/print';
import type { ShownPiece } from '@/core/shown';
import { PAPER } from '@/core/words';
import { FirstFinding, Measured } from './findings';

/** The sides of a piece as they are printed, with the lines that they are cut by, and what their proof says: one sentence first. */
export function PaperStage({ shown }: { shown: ShownPiece }) {
  const [guides, setGuides] = useState(true);
  const { proof, piece, front, back } = shown;
  return (
    <div className="paper-stage">
      <Form.Check
        id="paper-guides"
        type="switch"
        label={PAPER.guides}
        checked={guides}
        onChange={({ target }) => setGuides(target.checked)}
      />
      <FirstFinding proof={proof} passed={PAPER.passed} leaving={shown.leaving} leavingWord={PAPER.leaving} />
      <div className={`paper-sides ${sizeOf(piece.size).stock}`}>
        <Side side="front" svg={front} shown={shown} guides={guides} />
        {back !== null && <Side side="back" svg={back} shown={shown} guides={guides} />}
      </div>
      <Measured proof={proof} />
    </div>
  );
}

function Side({
  side,
  svg,
  shown: { piece },
  guides,
}: {
  side: 'front' | 'back';
  svg: string;
  shown: ShownPiece;
  guides: boolean;
}) {
  const { width, height } = trimOf(piece);
  const { round } = sizeOf(piece.size);
  const { margin } = roomsOf(piece.size);
  const inset = (mm: number) => {
    const [across, down] = [(mm / (width + 2 * BLEED_MM)) * 100, (mm / (height + 2 * BLEED_MM)) * 100];
    return { left: `${across}%`, right: `${across}%`, top: `${down}%`, bottom: `${down}%` };
  };
  return (
    <figure className={width >= height ? 'lying' : 'standing'}>
      <figcaption className="caps">{PAPER.side[side]}</figcaption>
      <div className="paper-side">
        <img src={`data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`} alt={PAPER.alt(side)} />
        {guides && (
          <>
            <span className={`trim ${round ? 'round' : ''}`} style={inset(BLEED_MM)} />
            {!round && <span className="safe" style={inset(BLEED_MM + margin)} />}
          </>
        )}
      </div>
      <span className="note">{PAPER.measures(width, height)}</span>
    </figure>
  );
}
