'use client';
import Link from 'next/link';
import { usePathname } from 'next/navigation';

const SECTIONS = [
  { href: '/people', word: 'People', also: '/cards/' },
  { href: '/response', word: 'Response', also: null },
];

export function Rail() {
  const path = usePathname();
  return (
    <nav className="rail" aria-label="Sections">
      {SECTIONS.map(({ href, word, also }) => {
        const here = path.startsWith(href) || (also !== null && path.startsWith(also));
        return (
          <Link key={href} href={href} className={here ? 'on' : ''} aria-current={here ? 'page' : undefined}>
            {word}
          </Link>
        );
      })}
    </nav>
  );
}
