'use client';
import Link from 'next/link';
import { HOUSE } from '@/core/messages';

export type HousePreview = {
  cards: number;
  changed: number;
  proved: number;
  fails: { cardId: string; person: string; finding: string }[];
  mends: number;
};

/** What saving would do, measured on the cards that are out. */
export function HouseEffects({ preview }: { preview: HousePreview }) {
  const { cards, changed, proved, fails, mends } = preview;
  return (
    <div className="house-effects" role="status">
      <p className="finding">{HOUSE.would(changed, cards)}</p>
      <p>
        {HOUSE.proved(proved, cards)} {fails.length === 0 ? HOUSE.noProofFails : HOUSE.proofFails(fails.length)}{' '}
        {mends > 0 ? HOUSE.mends(mends) : ''}
      </p>
      {fails.length > 0 && (
        <ul>
          {fails.map(({ cardId, person, finding }) => (
            <li key={cardId}>
              <Link href={`/cards/${cardId}/look`}>{person}</Link> {finding}
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
