'use client';
import Link from 'next/link';
import { HOUSE } from '@/core/messages';

export type HousePreview = {
  cards: number;
  changed: number;
  proved: number;
  fails: { finding: string; count: number; cards: { cardId: string; person: string }[] }[];
  mends: number;
};

/** What saving would do, measured on the cards that are out. */
export function HouseEffects({ preview }: { preview: HousePreview }) {
  const { cards, changed, proved, fails, mends } = preview;
  const failing = fails.reduce((sum, { count }) => sum + count, 0);
  return (
    <div className="house-effects" role="status">
      <p className="finding">{HOUSE.would(changed, cards)}</p>
      <p>
        {HOUSE.proved(proved, cards)} {failing === 0 ? HOUSE.noProofFails : HOUSE.proofFails(failing)}{' '}
        {mends > 0 ? HOUSE.mends(mends) : ''}
      </p>
      {fails.map(({ finding, count, cards: named }) => (
        <div key={finding} className="failing">
          <p>{finding}</p>
          <p>
            {named.map(({ cardId, person }) => (
              <Link key={cardId} href={`/cards/${cardId}/look`}>
                {person}
              </Link>
            ))}
            {count > named.length && <span>{HOUSE.andMore(count - named.length)}</span>}
          </p>
        </div>
      ))}
    </div>
  );
}
