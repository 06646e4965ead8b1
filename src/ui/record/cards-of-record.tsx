'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { FIRST_AUDIENCES, type Audience, type CardState } from '@/core/card';
import type { LayoutName } from '@/core/look';
import { CARD, CARDS, RECORD } from '@/core/words';
import { MARKS } from '@/ui/card/card-head';
import { call } from '@/ui/studio/call';
import { NewCard } from './new-card';

export type CardOfRecord = { id: string; audience: string; state: CardState; isPrivate: boolean; shows: string[] };

/** The cards of a person, and further ones. Of the usual two, the private one is offered while it is missing. */
export function CardsOfRecord({
  recordId,
  cards,
  audiences,
  layouts,
}: {
  recordId: string;
  cards: CardOfRecord[];
  audiences: Audience[];
  layouts: readonly LayoutName[];
}) {
  const router = useRouter();
  const [making, setMaking] = useState(false);
  const missing = cards.length > 0 && !cards.some((card) => card.isPrivate);
  const preset = audiences.find(({ isPrivate }) => isPrivate) ?? FIRST_AUDIENCES[1]!;

  async function makePrivate() {
    const { name: audience, isPrivate, without } = preset;
    const answer = await call<{ cardId: string }>('/api/cards', { json: { recordId, audience, isPrivate, without } });
    if (answer.ok) router.push(`/cards/${answer.value.cardId}`);
  }

  return (
    <section aria-labelledby="cards-of" className="cards-of-record">
      <h2 className="caps" id="cards-of">
        {RECORD.cards}
      </h2>
      <ul className="cards-of">
        {cards.map((card) => (
          <li key={card.id}>
            <Link href={`/cards/${card.id}`}>{card.audience}</Link>{' '}
            <span className={`state ${card.state}`}>
              <i aria-hidden="true">{MARKS[card.state]}</i> {CARD.state[card.state]}
            </span>{' '}
            <span className="also">{RECORD.linesOut(card.shows.length)}</span>
          </li>
        ))}
      </ul>
      {missing && (
        <p>
          {CARDS.firstSet}{' '}
          <button type="button" className="plain" onClick={() => void makePrivate()}>
            {CARDS.makePrivate}
          </button>
        </p>
      )}
      <Button variant="quiet" onClick={() => setMaking(true)}>
        {CARDS.newCard}
      </Button>
      {making && (
        <NewCard
          recordId={recordId}
          cards={cards}
          audiences={audiences}
          layouts={layouts}
          onClose={() => setMaking(false)}
        />
      )}
    </section>
  );
}
