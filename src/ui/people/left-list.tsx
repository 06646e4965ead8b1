import Link from 'next/link';
import { sayFinding } from '@/core/findings';
import type { LeftEntry } from '@/core/shown';
import { CHANGES, JOBS } from '@/core/words';

/** Cards that a change leaves as they are, each with the reason; the first of many. */
export function LeftList({
  left,
  count,
  title = CHANGES.left,
}: {
  left: LeftEntry[];
  count: number;
  title?: (count: number) => string;
}) {
  if (count === 0) return null;
  return (
    <>
      <h2 className="caps">{title(count)}</h2>
      <ul className="left-list">
        {left.map(({ recordId, person, card, finding }, at) => (
          <li key={at}>
            <Link href={card ? `/cards/${card.id}` : `/people/${recordId}`}>
              {person || JOBS.somebody}
              {card && `, ${card.audience}`}
            </Link>{' '}
            {sayFinding(finding)}
          </li>
        ))}
      </ul>
    </>
  );
}
