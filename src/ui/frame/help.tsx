'use client';
import dynamic from 'next/dynamic';
import { usePathname } from 'next/navigation';
import { useEffect, useState } from 'react';
import { FRAME } from '@/core/messages';
import { sectionsOf, type Member } from './sections';
import type { Shortcut } from './help-dialog';
import { hasSingleKeys, isTyping } from './typing';

const HelpDialog = dynamic(() => import('./help-dialog').then((made) => made.HelpDialog));

const { keys, does } = FRAME;
const LEDGER: Shortcut[] = [
  { keys: '↑ ↓ ← →', does: does.move },
  { keys: keys.space, does: does.tick },
  { keys: keys.enter, does: does.edit },
  { keys: keys.escape, does: does.leave },
  { keys: keys.alt, does: does.moveLine },
  { keys: keys.nowhere, does: does.nowhere },
  { keys: '/', does: does.filterLines },
  { keys: `${keys.undo}, ${keys.redo}`, does: does.undo },
];
const FILTERED: Shortcut[] = [{ keys: '/', does: does.filter }];

/** The shortcuts of the screen that one stands on. */
function shortcutsOf(path: string, member: Member): { title: string; shortcuts: Shortcut[] }[] {
  const here = /^\/cards\/[^/]+$/.test(path) ? LEDGER : path === '/people' ? FILTERED : [];
  return [
    ...(here.length > 0 ? [{ title: FRAME.onThisScreen, shortcuts: here }] : []),
    {
      title: FRAME.everywhere,
      shortcuts: [
        { keys: keys.goTo, does: does.goTo },
        ...sectionsOf(member).map(({ word, letter }) => ({ keys: `g ${letter}`, does: does.section(word) })),
        { keys: '?', does: does.help },
      ],
    },
  ];
}

export function Help({ member }: { member: Member }) {
  const [open, setOpen] = useState(false);
  const path = usePathname();
  useEffect(() => {
    const key = (event: KeyboardEvent) => {
      if (event.key !== '?' || isTyping(event.target) || !hasSingleKeys()) return;
      event.preventDefault();
      setOpen(true);
    };
    window.addEventListener('keydown', key);
    return () => window.removeEventListener('keydown', key);
  }, []);
  return (
    <>
      <button type="button" className="plain help" onClick={() => setOpen(true)} aria-keyshortcuts="?">
        {FRAME.help} <kbd>?</kbd>
      </button>
      {open && <HelpDialog parts={shortcutsOf(path, member)} onClose={() => setOpen(false)} />}
    </>
  );
}
