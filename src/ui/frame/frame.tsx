import Link from 'next/link';
import type { ReactNode } from 'react';
import { Rail } from './rail';
import { SignOut } from './sign-out';

/** The studio around every screen: a top line and a rail of words, which on a phone becomes the bottom row. */
export function Frame({
  organisation,
  person,
  children,
}: {
  organisation: string;
  person: string;
  children: ReactNode;
}) {
  return (
    <>
      <a className="skip" href="#content">
        To the content
      </a>
      <header className="top">
        <Link className="word" href="/people">
          Heathland
        </Link>
        <span className="org">{organisation}</span>
        <span className="who">{person === organisation ? '' : person}</span>
        <SignOut />
      </header>
      <div className="studio">
        <Rail />
        <main id="content">{children}</main>
      </div>
    </>
  );
}
