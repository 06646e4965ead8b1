'use client';
import { useState } from 'react';
import { Modal } from 'react-bootstrap';
import { FRAME } from '@/core/messages';
import { hasSingleKeys, setSingleKeys } from './typing';

export type Shortcut = { keys: string; does: string };

/** The shortcuts of a screen and those of everywhere. */
export function HelpDialog({
  parts,
  onClose,
}: {
  parts: { title: string; shortcuts: Shortcut[] }[];
  onClose: () => void;
}) {
  const [single, setSingle] = useState(hasSingleKeys);
  return (
    <Modal show onHide={onClose} animation={false} aria-labelledby="help-title">
      <Modal.Header closeButton>
        <Modal.Title id="help-title">{FRAME.shortcuts}</Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <label className="single-keys">
          <input
            type="checkbox"
            checked={single}
            onChange={({ target }) => (setSingle(target.checked), setSingleKeys(target.checked))}
          />{' '}
          {FRAME.singleKeys}
        </label>
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
