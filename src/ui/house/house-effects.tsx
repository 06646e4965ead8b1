'use client';
import type { FailingCards, HousePreview } from '@/core/shown';
import { sayFinding } from '@/core/findings';
import Link from 'next/link';
import { HOUSE } from '@/core/words';

export const countOf = (failing: FailingCards[]): number => failing.reduce((sum, { count }) => sum + count, 0);

/** What saving would do, measured on the cards that are out. */
export function HouseEffects({ preview }: { preview: HousePreview }) {
  const { cards, changed, proved, fails, mends } = preview;
  const failing = countOf(fails);
  return (
    <div className="house-effects" role="status">
      <p className="finding">{HOUSE.would(changed, cards)}</p>
      <p>
        {HOUSE.proved(proved, cards)} {failing === 0 ? HOUSE.noProofFails : HOUSE.proofFails(failing)}{' '}
        {mends > 0 ? HOUSE.mends(mends) : ''}
      </p>
      <FailingList failing={fails} />
    </div>
  );
}

/** Each check that fails with its cards, which lead to what can be done. */
export const FailingList = ({ failing }: { failing: FailingCards[] }) =>
  failing.map(({ channel, check, count, cards }) => (
    <div key={channel + check} className="failing">
      <b>{HOUSE.failing(channel, check)}</b>
      <ul>
        {cards.map(({ cardId, person, audience, finding }) => (
          <li key={cardId}>
            <Link href={`/cards/${cardId}`}>{HOUSE.cardOf(person, audience)}</Link> {sayFinding(finding)}
          </li>
        ))}
      </ul>
      {count > cards.length && <p>{HOUSE.andMore(count - cards.length)}</p>}
    </div>
  ));
