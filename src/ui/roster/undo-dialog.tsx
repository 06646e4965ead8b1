'use client';
import { Button, Modal } from 'react-bootstrap';
import { ROSTER } from '@/core/words';

/** Asks once before a whole run is undone. */
export function UndoDialog({ onUndo, onClose }: { onUndo: () => void; onClose: () => void }) {
  return (
    <Modal show onHide={onClose} animation={false} aria-labelledby="undo-title">
      <Modal.Header closeButton>
        <Modal.Title id="undo-title">{ROSTER.undoAsk}</Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <p>{ROSTER.undoNote}</p>
      </Modal.Body>
      <Modal.Footer>
        <Button variant="quiet" onClick={onClose}>
          {ROSTER.keepRun}
        </Button>
        <Button onClick={onUndo}>{ROSTER.undo}</Button>
      </Modal.Footer>
    </Modal>
  );
}
