'use client';
import { useRouter } from 'next/navigation';
import { useEffect, useState, type KeyboardEvent } from 'react';
import { Modal } from 'react-bootstrap';
import { reachOf } from '@/core/access';
import { ENTRY, FRAME, REFER } from '@/core/words';
import { call } from '@/ui/studio/call';
import { sectionsOf, type Member } from './sections';

type Entry = { kind: keyof typeof FRAME.foundKind; name: string; about: string; href: string };

/** Milliseconds of quiet after a letter before the server is asked. */
const QUIET_MS = 120;

const commandsOf = (member: Member): Entry[] => [
  ...sectionsOf(member).map(({ word, href, letter }) => ({
    kind: 'section' as const,
    name: word,
    about: `g ${letter}`,
    href,
  })),
  ...(reachOf(member.role, 'contact.refer') === 'none'
    ? []
    : [{ kind: 'command' as const, name: REFER.title, about: '', href: '/refer' }]),
  { kind: 'command', name: ENTRY.changePassword, about: '', href: '/password' },
];

/** What is found for the letters typed, and the commands; the arrows choose. */
export function GoToDialog({ member, onClose }: { member: Member; onClose: () => void }) {
  const router = useRouter();
  const [typed, setTyped] = useState('');
  const [found, setFound] = useState<Entry[]>([]);
  const [at, setAt] = useState(0);
  const commands = commandsOf(member).filter(({ name }) => name.toLowerCase().includes(typed.trim().toLowerCase()));
  const entries = [...found, ...commands];

  useEffect(() => {
    let current = true;
    const timer = setTimeout(async () => {
      if (!typed.trim()) return setFound([]);
      const answer = await call<{ found: Entry[] }>(`/api/go-to?q=${encodeURIComponent(typed)}`);
      if (!current || !answer.ok) return;
      setFound(answer.value.found);
      setAt(0);
    }, QUIET_MS);
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [typed]);

  const go = (entry: Entry | undefined) => {
    if (!entry) return;
    onClose();
    router.push(entry.href);
  };
  const keys = (event: KeyboardEvent) => {
    if (event.key === 'Enter') go(entries[at]);
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (!step || entries.length === 0) return;
    event.preventDefault();
    setAt((at + step + entries.length) % entries.length);
  };

  return (
    <Modal show onHide={onClose} animation={false} aria-label={FRAME.goTo} className="goto-dialog">
      <input
        className="goto-field"
        role="combobox"
        aria-expanded="true"
        aria-controls="goto-list"
        aria-activedescendant={entries[at] ? `goto-${at}` : undefined}
        aria-label={FRAME.goToField}
        placeholder={FRAME.goToHint}
        autoFocus
        value={typed}
        maxLength={200}
        onChange={(event) => setTyped(event.target.value)}
        onKeyDown={keys}
      />
      <ul id="goto-list" role="listbox" aria-label={FRAME.found}>
        {entries.map((entry, index) => (
          <li
            key={`${entry.href} ${entry.name} ${entry.about}`}
            id={`goto-${index}`}
            role="option"
            aria-selected={index === at}
            onMouseMove={() => setAt(index)}
            onClick={() => go(entry)}
          >
            <span className="goto-kind">{FRAME.foundKind[entry.kind]}</span>
            <span>{entry.name}</span>
            <span className="goto-about">{entry.about}</span>
          </li>
        ))}
      </ul>
      {entries.length === 0 && <p className="nothing">{FRAME.notFound(typed)}</p>}
    </Modal>
  );
}
