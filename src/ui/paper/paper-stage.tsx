'use client';
import { useState } from 'react';
import { Form } from 'react-bootstrap';
import { sayFinding } from '@/core/findings';
import { BLEED_MM, roomsOf, sizeOf, trimOf } from '@/core/print';
import type { ShownPiece } from '@/core/shown';
import { PAPER } from '@/core/words';

/** The sides of a piece as they are printed, with the lines that they are cut by, and what their proof says: one sentence first. */
export function PaperStage({ shown }: { shown: ShownPiece }) {
  const [guides, setGuides] = useState(true);
  const { proof, piece, front, back } = shown;
  const failed = proof.checks.filter(({ passed }) => !passed);
  const small = proof.checks.find(({ note }) => note);
  return (
    <div className="paper-stage">
      <Form.Check
        id="paper-guides"
        type="switch"
        label={PAPER.guides}
        checked={guides}
        onChange={({ target }) => setGuides(target.checked)}
      />
      <p className={`first-finding ${tone(failed.length === 0)}`} role="status">
        <span aria-hidden="true">{failed.length === 0 ? '✓' : '✕'}</span>{' '}
        {failed[0] ? sayFinding(failed[0].finding) : PAPER.passed}
      </p>
      {failed.length === 0 && small && <p className="attention">{sayFinding(small.finding)}</p>}
      {shown.leaving.length > 0 && (
        <p className="attention">
          {PAPER.leaving} {shown.leaving.map(({ title, value }) => `${title} ${value}`).join(' · ')}
        </p>
      )}
      <div className={`paper-sides ${sizeOf(piece.size).stock}`}>
        <Side side="front" svg={front} shown={shown} guides={guides} />
        {back !== null && <Side side="back" svg={back} shown={shown} guides={guides} />}
      </div>
      <details>
        <summary>{PAPER.proof}</summary>
        <ul className="paper-checks">
          {proof.checks.map(({ name, passed, finding }, at) => (
            <li key={`${name} ${at}`} className={tone(passed)}>
              <span aria-hidden="true">{passed ? '✓' : '✕'}</span> {sayFinding(finding)}
            </li>
          ))}
        </ul>
      </details>
    </div>
  );
}

const tone = (passed: boolean): string => (passed ? 'passed' : 'failed');

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
