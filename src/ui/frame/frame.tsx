import Link from 'next/link';
import type { ReactNode } from 'react';
import { ACCOUNT, ENTRY, FRAME } from '@/core/words';
import { GoTo } from './go-to';
import { KeepFocus } from './keep-focus';
import { Help } from './help';
import { Rail } from './rail';
import type { Member } from './sections';
import { ConfirmPassword } from '@/ui/studio/confirm-password';
import { SignOut } from './sign-out';
import { TypedBefore } from './typed-before';

type Props = { organisation: string; person: string; member: Member; children: ReactNode };

/** The studio around every screen: a top line and a rail of words, which on a phone becomes the bottom row. */
export function Frame({ organisation, person, member, children }: Props) {
  return (
    <>
      <a className="skip" href="#content">
        {FRAME.toContent}
      </a>
      <header className="top">
        <Link className="word" href="/">
          {ENTRY.product}
        </Link>
        <span className="org">{organisation}</span>
        <GoTo member={member} />
        <div className="right">
          <Help member={member} />
          <Link className="who" href="/account" title={ACCOUNT.link}>
            {person === organisation ? ACCOUNT.link : person}
          </Link>
          <SignOut />
        </div>
      </header>
      <div className="studio">
        <Rail member={member} />
        <main id="content">{children}</main>
      </div>
      <KeepFocus />
      <TypedBefore />
      <ConfirmPassword />
    </>
  );
}
