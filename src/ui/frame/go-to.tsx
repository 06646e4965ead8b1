'use client';
import dynamic from 'next/dynamic';
import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { FRAME } from '@/core/words';
import { sectionsOf, type Member } from './sections';
import { hasSingleKeys, isTyping } from './typing';

const GoToDialog = dynamic(() => import('./go-to-dialog').then((made) => made.GoToDialog));

/** One box that leads to every person, card, hand-out and section: Ctrl or ⌘ K, then a few letters. */
export function GoTo({ member }: { member: Member }) {
  const router = useRouter();
  const [open, setOpen] = useState(false);

  useEffect(() => {
    let afterG = false;
    const key = (event: KeyboardEvent) => {
      if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k') {
        event.preventDefault();
        return setOpen(true);
      }
      if (event.ctrlKey || event.metaKey || event.altKey || isTyping(event.target) || !hasSingleKeys()) return;
      const section = afterG && sectionsOf(member).find(({ letter }) => letter === event.key);
      afterG = event.key === 'g';
      if (section) router.push(section.href);
      if (event.key === '/') {
        const filter = document.querySelector<HTMLInputElement>('[data-filter]');
        if (filter) event.preventDefault();
        filter?.focus();
      }
    };
    window.addEventListener('keydown', key);
    return () => window.removeEventListener('keydown', key);
  }, [member, router]);

  return (
    <>
      <button
        type="button"
        className="goto"
        onClick={() => setOpen(true)}
        aria-haspopup="dialog"
        aria-keyshortcuts="Control+K"
      >
        <span>{FRAME.goToBox}</span>
        <kbd>{FRAME.keys.goTo}</kbd>
      </button>
      {open && <GoToDialog member={member} onClose={() => setOpen(false)} />}
    </>
  );
}
