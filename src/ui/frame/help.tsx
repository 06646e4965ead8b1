'use client';
import { usePathname } from 'next/navigation';
import { useEffect, useState } from 'react';
import { Modal } from 'react-bootstrap';
import type { Role } from '@/core/access';
import { sectionsOf } from './sections';
import { isTyping } from './typing';

type Shortcut = { keys: string; does: string };

const LEDGER: Shortcut[] = [
  { keys: '↑ ↓ ← →', does: 'move between the cells of the ledger' },
  { keys: 'Space', does: 'tick or untick' },
  { keys: 'Enter', does: 'edit a label or wording; once more keeps it' },
  { keys: 'Esc', does: 'leave a cell as it was' },
  { keys: 'Alt ↑ ↓', does: 'move a line' },
  { keys: 'Ctrl Z, Ctrl Shift Z', does: 'undo and redo' },
];
const FILTERED: Shortcut[] = [{ keys: '/', does: 'filter the list' }];

/** The shortcuts of the screen that one stands on. */
function shortcutsOf(path: string, role: Role): { title: string; shortcuts: Shortcut[] }[] {
  const here = /^\/cards\/[^/]+$/.test(path) ? LEDGER : path === '/people' ? FILTERED : [];
  return [
    ...(here.length > 0 ? [{ title: 'On this screen', shortcuts: here }] : []),
    {
      title: 'Everywhere',
      shortcuts: [
        { keys: 'Ctrl K', does: 'go to a person, card, hand-out or section' },
        ...sectionsOf(role).map(({ word, letter }) => ({ keys: `g ${letter}`, does: `to ${word}` })),
        { keys: '?', does: 'this help' },
      ],
    },
  ];
}

export function Help({ role }: { role: Role }) {
  const [open, setOpen] = useState(false);
  const path = usePathname();
  useEffect(() => {
    const key = (event: KeyboardEvent) => {
      if (event.key !== '?' || isTyping(event.target)) return;
      event.preventDefault();
      setOpen(true);
    };
    window.addEventListener('keydown', key);
    return () => window.removeEventListener('keydown', key);
  }, []);
  return (
    <>
      <button type="button" className="plain help" onClick={() => setOpen(true)} aria-keyshortcuts="?">
        Help <kbd>?</kbd>
      </button>
      <Modal show={open} onHide={() => setOpen(false)} animation={false} aria-labelledby="help-title">
        <Modal.Header closeButton>
          <Modal.Title id="help-title">Shortcuts</Modal.Title>
        </Modal.Header>
        <Modal.Body>
          {shortcutsOf(path, role).map(({ title, shortcuts }) => (
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
    </>
  );
}
