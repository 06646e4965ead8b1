import Link from 'next/link';
import { wordingOf } from '@/core/errors';
import { ENTRY } from '@/core/words';

/** Where accounts are not made by oneself. */
export function NoSignUp() {
  return (
    <main className="entry">
      <p className="word">{ENTRY.product}</p>
      <h1>{ENTRY.newAccount}</h1>
      <p>{wordingOf({ code: 'SIGN_UP_CLOSED' })}</p>
      <p className="aside">
        {ENTRY.haveOne} <Link href="/sign-in">{ENTRY.signIn}</Link>
      </p>
    </main>
  );
}
