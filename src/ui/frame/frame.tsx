import Link from 'next/link';
import type { ReactNode } from 'react';
import type { Role } from '@/core/access';
import { GoTo } from './go-to';
import { Help } from './help';
import { Rail } from './rail';
import { SignOut } from './sign-out';

type Props = { organisation: string; person: string; role: Role; children: ReactNode };

/** The studio around every screen: a top line and a rail of words, which on a phone becomes the bottom row. */
export function Frame({ organisation, person, role, children }: Props) {
  return (
    <>
      <a className="skip" href="#content">
        To the content
      </a>
      <header className="top">
        <Link className="word" href="/">
          Heathland
        </Link>
        <span className="org">{organisation}</span>
        <GoTo role={role} />
        <div className="right">
          <Help role={role} />
          <Link className="who" href="/password" title="Change your password">
            {person === organisation ? 'Password' : person}
          </Link>
          <SignOut />
        </div>
      </header>
      <div className="studio">
        <Rail role={role} />
        <main id="content">{children}</main>
      </div>
    </>
  );
}
