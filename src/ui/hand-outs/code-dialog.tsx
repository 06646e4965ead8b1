'use client';
import { useEffect, useState } from 'react';
import { Modal } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';

type Facts = {
  text: string;
  version: number;
  modules: number;
  level: string;
  widthMm: number;
  moduleMm: number;
  readBack: { read: number; of: number };
};

/** The code of a hand-out at a size that a phone across the table reads, with what it holds and its proof. */
export function CodeDialog({
  handOut,
  onClose,
}: {
  handOut: { id: string; code: string; placement: string };
  onClose: () => void;
}) {
  const [facts, setFacts] = useState<Facts | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  useEffect(() => {
    let current = true;
    void call<Facts>(`/api/hand-outs/${handOut.id}/facts`).then((answer) => {
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
        <img className="code" src={`/api/hand-outs/${handOut.id}/code.svg`} alt={`QR code ${handOut.code}`} />
        <ProblemNote problem={problem} />
        {facts && (
          <>
            <p className="finding">
              {facts.readBack.read} of {facts.readBack.of} pictures of this code were read by another program’s reader.
              {all ? '' : ' Do not print it.'}
            </p>
            <dl className="facts">
              <dt>Holds</dt>
              <dd className="mono">{facts.text}</dd>
              <dt>Kind</dt>
              <dd>Live: shows the card of the day, also after printing</dd>
              <dt>Symbol</dt>
              <dd>
                version {facts.version}, {facts.modules} modules, level {facts.level}
              </dd>
              <dt>Printed</dt>
              <dd>
                {facts.widthMm} mm wide, {facts.moduleMm.toFixed(2)} mm a module, quiet zone included
              </dd>
            </dl>
          </>
        )}
      </Modal.Body>
      <Modal.Footer>
        <a className="btn btn-quiet" href={`/api/hand-outs/${handOut.id}/code.png?download`}>
          Download PNG
        </a>
        <a className="btn btn-primary" href={`/api/hand-outs/${handOut.id}/code.svg?download`}>
          Download SVG
        </a>
      </Modal.Footer>
    </Modal>
  );
}
