'use client';
import Link from 'next/link';
import type { Problem } from '@/core/errors';
import { HOUSE } from '@/core/words';

/** Cards that fail the same check of their page or contact file, the first of them each with what was found. */
export type Failing = {
  channel: 'page' | 'contact file';
  check: string;
  count: number;
  cards: { cardId: string; person: string; audience: string; finding: string }[];
};
export type HousePreview = {
  cards: number;
  changed: number;
  proved: number;
  fails: Failing[];
  mends: number;
  refused: Problem | null;
};

export const countOf = (failing: Failing[]): number => failing.reduce((sum, { count }) => sum + count, 0);

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
      <FailingCards failing={fails} />
    </div>
  );
}

/** Each check that fails with its cards, which lead to what can be done. */
export const FailingCards = ({ failing }: { failing: Failing[] }) =>
  failing.map(({ channel, check, count, cards }) => (
    <div key={channel + check} className="failing">
      <b>{HOUSE.failing(channel, check)}</b>
      <ul>
        {cards.map(({ cardId, person, audience, finding }) => (
          <li key={cardId}>
            <Link href={`/cards/${cardId}`}>{HOUSE.cardOf(person, audience)}</Link> {finding}
          </li>
        ))}
      </ul>
      {count > cards.length && <p>{HOUSE.andMore(count - cards.length)}</p>}
    </div>
  ));
