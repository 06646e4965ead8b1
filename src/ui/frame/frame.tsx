import Link from 'next/link';
import type { ReactNode } from 'react';
import { ACCOUNT, ENTRY, FRAME } from '@/core/words';
import { GoTo } from './go-to';
import { KeepFocus } from './keep-focus';
import { HEARS_EARLY } from './hears-early';
import { Help } from './help';
import { Rail } from './rail';
import { RepeatEarly } from './repeat-early';
import type { Member } from './sections';
import { ConfirmPassword } from '@/ui/studio/confirm-password';
import { SignOut } from './sign-out';
import { Unconfirmed } from './unconfirmed';

type Props = {
  organisation: string;
  person: string;
  member: Member;
  /** The address that waits to be confirmed; null where none does. */
  unconfirmed: string | null;
  /** Whether this installation keeps its mail in a tray instead of sending it on. */
  tray: boolean;
  /** What lets a script of this document run. */
  nonce: string;
  children: ReactNode;
};

/** The studio around every screen: a top line and a rail of words, which on a phone becomes the bottom row. */
export function Frame({ organisation, person, member, unconfirmed, tray, nonce, children }: Props) {
  return (
    <>
      <script nonce={nonce} dangerouslySetInnerHTML={{ __html: HEARS_EARLY }} />
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
          {tray && (
            <Link href="/tray" className="tray">
              {FRAME.tray}
            </Link>
          )}
          <Help member={member} />
          <Link className="who" href="/account" title={ACCOUNT.link}>
            {person === organisation ? ACCOUNT.link : person}
          </Link>
          <SignOut />
        </div>
      </header>
      <div className="studio">
        <Rail member={member} />
        <main id="content">
          {unconfirmed !== null && <Unconfirmed email={unconfirmed} />}
          {children}
        </main>
      </div>
      <KeepFocus />
      <RepeatEarly />
      <ConfirmPassword />
    </>
  );
}
