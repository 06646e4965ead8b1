'use client';
import dynamic from 'next/dynamic';
import { usePathname } from 'next/navigation';
import { useEffect, useState } from 'react';
import { FRAME, HELP } from '@/core/words';
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

/** What the screen that one stands on is for. */
const TEXTS: [RegExp, string[]][] = [
  [/^\/people$/, [HELP.people]],
  [/^\/people\/[^/]+$/, [HELP.person]],
  [/^\/cards\/[^/]+$/, [HELP.card, HELP.cardOnPhone]],
  [/^\/cards\/[^/]+\/look$/, [HELP.look]],
  [/^\/cards\/[^/]+\/hand-outs$/, [HELP.handOuts]],
  [/\/response$/, [HELP.response]],
  [/^\/imports\//, [HELP.imports]],
];
const textsOf = (path: string, { alone }: Member): string[] =>
  TEXTS.find(([of]) => of.test(path))?.[1] ?? (/^\/company/.test(path) ? [alone ? HELP.account : HELP.company] : []);

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
        <span>{FRAME.help}</span> <kbd>?</kbd>
      </button>
      {open && (
        <HelpDialog texts={textsOf(path, member)} parts={shortcutsOf(path, member)} onClose={() => setOpen(false)} />
      )}
    </>
  );
}
