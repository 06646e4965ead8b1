'use client';
import Link from 'next/link';
import { Modal } from 'react-bootstrap';
import { HAND_OUTS } from '@/core/words';

/** The code of a hand-out at a size that a phone across the table reads. */
export function CodeDialog({
  handOut,
  cardId,
  onClose,
}: {
  handOut: { id: string; code: string; placement: string };
  cardId: string;
  onClose: () => void;
}) {
  return (
    <Modal show onHide={onClose} animation={false} aria-labelledby="code-title" className="code-dialog">
      <Modal.Header closeButton>
        <Modal.Title id="code-title">{handOut.placement}</Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <img className="code" src={`/api/hand-outs/${handOut.id}/code.svg`} alt={HAND_OUTS.codeOf(handOut.code)} />
      </Modal.Body>
      <Modal.Footer>
        <a className="btn btn-quiet" href={`/api/hand-outs/${handOut.id}/code.svg?download`}>
          {HAND_OUTS.downloadSvg}
        </a>
        <Link className="btn btn-primary" href={`/cards/${cardId}/hand-outs/${handOut.id}`} onClick={onClose}>
          {HAND_OUTS.openCode}
        </Link>
      </Modal.Footer>
    </Modal>
  );
}
