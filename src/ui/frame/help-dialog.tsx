'use client';
import { Modal } from 'react-bootstrap';
import { FRAME } from '@/core/messages';

export type Shortcut = { keys: string; does: string };

/** The shortcuts of a screen and those of everywhere. */
export function HelpDialog({
  parts,
  onClose,
}: {
  parts: { title: string; shortcuts: Shortcut[] }[];
  onClose: () => void;
}) {
  return (
    <Modal show onHide={onClose} animation={false} aria-labelledby="help-title">
      <Modal.Header closeButton>
        <Modal.Title id="help-title">{FRAME.shortcuts}</Modal.Title>
      </Modal.Header>
      <Modal.Body>
        {parts.map(({ title, shortcuts }) => (
          <section key={title}>
            <h2 className="caps">{title}</h2>
            <dl className="shortcuts">
              {shortcuts.map(({ keys, does }) => (
                <div key={keys}>
                  <dt>
                    <kbd>{keys}</kbd>
                  </dt>
                  <dd>{does}</dd>
                </div>
              ))}
            </dl>
          </section>
        ))}
      </Modal.Body>
    </Modal>
  );
}
