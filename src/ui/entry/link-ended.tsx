import Link from 'next/link';
import { wordingOf, type Problem } from '@/core/errors';
import { ENTRY } from '@/core/words';

/** A link of a letter that leads nowhere any more, and where another one is to be had. */
export function LinkEnded({ problem, again }: { problem: Problem; again: string }) {
  return (
    <main className="entry">
      <p className="word">{ENTRY.product}</p>
      <h1>{ENTRY.linkEnded}</h1>
      <p>{wordingOf(problem)}</p>
      <p className="aside">
        <Link href={again}>{again === '/forgotten' ? ENTRY.askForAnother : ENTRY.toAccount}</Link>
      </p>
    </main>
  );
}
