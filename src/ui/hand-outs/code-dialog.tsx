'use client';
import type { ShownCode } from '@/core/shown';
import { useEffect, useState } from 'react';
import { Modal } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { HAND_OUTS } from '@/core/words';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';

/** The code of a hand-out at a size that a phone across the table reads, with what it holds and its proof. */
export function CodeDialog({
  handOut,
  onClose,
}: {
  handOut: { id: string; code: string; placement: string; frozen: boolean };
  onClose: () => void;
}) {
  const [facts, setFacts] = useState<ShownCode | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  useEffect(() => {
    let current = true;
    void call<ShownCode>(`/api/hand-outs/${handOut.id}/facts`).then((answer) => {
      if (!current) return;
      if (answer.ok) setFacts(answer.value);
      else setProblem(answer.problem);
    });
    return () => {
      current = false;
    };
  }, [handOut.id]);
  const all = facts && facts.readBack.read === facts.readBack.of;
  return (
    <Modal show onHide={onClose} animation={false} aria-labelledby="code-title" className="code-dialog">
      <Modal.Header closeButton>
        <Modal.Title id="code-title">{handOut.placement}</Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <img className="code" src={`/api/hand-outs/${handOut.id}/code.svg`} alt={HAND_OUTS.codeOf(handOut.code)} />
        <ProblemNote problem={problem} />
        {facts && (
          <>
            <p className="finding">
              {HAND_OUTS.readBy(facts.readBack.read, facts.readBack.of)} {all ? '' : HAND_OUTS.doNotPrint}
            </p>
            <dl className="facts">
              <dt>{HAND_OUTS.holds}</dt>
              <dd className="mono held">{facts.text}</dd>
              <dt>{HAND_OUTS.kind}</dt>
              <dd>{handOut.frozen ? HAND_OUTS.frozen : HAND_OUTS.live}</dd>
              <dt>{HAND_OUTS.symbol}</dt>
              <dd>{HAND_OUTS.symbolIs(facts.version, facts.modules, facts.level)}</dd>
              <dt>{HAND_OUTS.printed}</dt>
              <dd>{HAND_OUTS.printedAs(facts.widthMm, facts.moduleMm)}</dd>
            </dl>
          </>
        )}
      </Modal.Body>
      <Modal.Footer>
        <a className="btn btn-quiet" href={`/api/hand-outs/${handOut.id}/code.png?download`}>
          {HAND_OUTS.downloadPng}
        </a>
        <a className="btn btn-primary" href={`/api/hand-outs/${handOut.id}/code.svg?download`}>
          {HAND_OUTS.downloadSvg}
        </a>
      </Modal.Footer>
    </Modal>
  );
}
