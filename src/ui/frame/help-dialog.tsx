'use client';
import { useState } from 'react';
import { Modal } from 'react-bootstrap';
import { FRAME, HELP } from '@/core/words';
import { useCompanyDefaults } from '@/ui/studio/organisation';
import { hasSingleKeys, setSingleKeys } from './typing';

export type Shortcut = { keys: string; does: string };

/** What a screen is for, its shortcuts and those of everywhere. */
export function HelpDialog({
  texts,
  parts,
  onClose,
}: {
  texts: string[];
  parts: { title: string; shortcuts: Shortcut[] }[];
  onClose: () => void;
}) {
  const { ask } = useCompanyDefaults();
  const [single, setSingle] = useState(hasSingleKeys);
  return (
    <Modal show onHide={onClose} animation={false} aria-labelledby="help-title">
      <Modal.Header closeButton>
        <Modal.Title id="help-title">{FRAME.help}</Modal.Title>
      </Modal.Header>
      <Modal.Body>
        {texts.length > 0 && (
          <section>
            <h2 className="caps">{HELP.what}</h2>
            {texts.map((text) => (
              <p key={text}>{text}</p>
            ))}
          </section>
        )}
        {ask && (
          <p className="ask">
            {HELP.ask} <b>{ask}</b>
          </p>
        )}
        <h2 className="caps">{FRAME.shortcuts}</h2>
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
            <h3 className="caps">{title}</h3>
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
