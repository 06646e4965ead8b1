import { Button, Modal } from 'react-bootstrap';
import { LEADS } from '@/core/words';

/** Asks before leads are erased, since nothing brings them back. */
export function EraseDialog({
  show,
  title,
  onClose,
  onErase,
}: {
  show: boolean;
  title: string;
  onClose: () => void;
  onErase: () => void;
}) {
  return (
    <Modal show={show} onHide={onClose} aria-labelledby="erase-lead" animation={false}>
      <Modal.Header closeButton>
        <Modal.Title id="erase-lead">{title}</Modal.Title>
      </Modal.Header>
      <Modal.Body>{LEADS.eraseText}</Modal.Body>
      <Modal.Footer>
        <Button variant="quiet" onClick={onClose}>
          {LEADS.close}
        </Button>
        <Button onClick={onErase}>{LEADS.erase}</Button>
      </Modal.Footer>
    </Modal>
  );
}
