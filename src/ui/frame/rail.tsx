'use client';
import Link from 'next/link';
import { usePathname } from 'next/navigation';
import { FRAME } from '@/core/words';
import { HAND_OVER, sectionsOf, type Member } from './sections';

/** The sections that a role includes, as words. */
export function Rail({ member }: { member: Member }) {
  const path = usePathname();
  return (
    <nav className="rail" aria-label={FRAME.sections}>
      {sectionsOf(member).map(({ href, word, also }) => {
        const here = [href, ...also].some((start) => path.startsWith(start));
        // A page of its own, which a phone keeps: nothing of it is fetched before.
        if (href === HAND_OVER)
          return (
            <a key={href} href={href} className="hold">
              {word}
            </a>
          );
        return (
          <Link key={href} href={href} className={here ? 'on' : ''} aria-current={here ? 'page' : undefined}>
            {word}
          </Link>
        );
      })}
    </nav>
  );
}
