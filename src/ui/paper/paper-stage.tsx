'use client';
import { useState, type ReactNode } from 'react';
import { Form } from 'react-bootstrap';
import { BLEED_MM, roomsOf, sizeOf, trimOf, type Piece, type SideName } from '@/core/print';
import type { ShownPiece } from '@/core/shown';
import { PAPER } from '@/core/words';
import { FirstFinding, Measured } from './findings';
import { PlacedLayer } from './placed-layer';

type Props = {
  shown: ShownPiece;
  /** As it is by now, which the server may not have drawn yet. */
  piece: Piece;
  chosen: number | null;
  onChosen: (at: number | null) => void;
  onPiece: (piece: Piece) => void;
};

/** The sides of a piece as they are printed, with the lines that they are cut by, and what their proof says: one sentence first. */
export function PaperStage({ shown, piece: made, ...placing }: Props) {
  const [guides, setGuides] = useState(true);
  const { proof, piece, front, back } = shown;
  const designed = shown.artworks !== null && piece.ground === 'artwork';
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
      <div className={`paper-sides ${designed ? 'designed' : sizeOf(piece.size).stock}`}>
        {[front, ...(back === null ? [] : [back])].map((svg, at) => {
          const side = at === 0 ? 'front' : 'back';
          return (
            <Side key={side} side={side} svg={svg} shown={shown} guides={guides}>
              {designed && <PlacedLayer shown={shown} piece={made} side={side} {...placing} />}
            </Side>
          );
        })}
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
  children,
}: {
  side: SideName;
  svg: string;
  shown: ShownPiece;
  guides: boolean;
  children: ReactNode;
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
        {children}
      </div>
      <span className="note">{PAPER.measures(width, height)}</span>
    </figure>
  );
}
