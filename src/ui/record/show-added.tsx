'use client';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { isPrivate, type Privacy } from '@/core/card';
import type { Problem } from '@/core/errors';
import { CARD, CARDS } from '@/core/words';
import { defaultLabel, shownValue, type Detail, type PersonRecord } from '@/core/record';
import { usePrivacies } from '@/ui/card/ledger/use-privacies';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';
import type { CardOfRecord } from './cards-of-record';

type Props = {
  recordId: string;
  body: PersonRecord;
  /** What came to the record and has been saved. */
  added: Detail[];
  cards: CardOfRecord[];
  /** Settled: shown on so many cards, or not wanted. */
  onDone: (cards: number) => void;
};

/** What came to a record goes on no published card by itself: the one question where it is wanted, the cards named. */
export function ShowAdded({ recordId, body, added, cards, onDone }: Props) {
  const privacies = usePrivacies(added, body);
  const [turned, setTurned] = useState<ReadonlySet<string>>(new Set());
  const [without, setWithout] = useState<ReadonlySet<string>>(new Set());
  const [problem, setProblem] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);
  const startsTicked = (detail: Detail) => !privacies.has(detail.id) || privacies.get(detail.id) === 'own words';
  const isTicked = (detail: Detail) => startsTicked(detail) !== turned.has(detail.id);
  const toggled = (set: ReadonlySet<string>, id: string) =>
    new Set(set.has(id) ? [...set].filter((each) => each !== id) : [...set, id]);
  const details = added.filter(isTicked).map(({ id }) => id);
  const chosen = cards.filter(({ id }) => !without.has(id)).map(({ id }) => id);

  async function show() {
    setBusy(true);
    const answer = await call<{ cards: string[] }>(`/api/records/${recordId}/show`, {
      json: { details, onCards: chosen },
    });
    setBusy(false);
    if (answer.ok) onDone(answer.value.cards.length);
    else setProblem(answer.problem);
  }

  return (
    <section className="banner show-added" aria-labelledby="show-added">
      <h2 className="caps" id="show-added">
        {CARDS.showAdded(added.length)}
      </h2>
      <ul>
        {added.map((detail) => (
          <li key={detail.id}>
            <label>
              <input
                type="checkbox"
                checked={isTicked(detail)}
                onChange={() => setTurned(toggled(turned, detail.id))}
              />{' '}
              {defaultLabel(detail)} <b>{shownValue(detail)}</b>
            </label>{' '}
            <Why privacy={privacies.get(detail.id)} warns={isPrivate(detail, body) && isTicked(detail)} />
          </li>
        ))}
      </ul>
      <p className="on-cards" role="group" aria-label={CARDS.onCards}>
        {CARDS.onCards}
        {cards.map((card) => (
          <label key={card.id}>
            <input
              type="checkbox"
              checked={!without.has(card.id)}
              onChange={() => setWithout(toggled(without, card.id))}
            />{' '}
            {card.audience}
          </label>
        ))}
      </p>
      <ProblemNote problem={problem} />
      <Button disabled={busy || details.length === 0 || chosen.length === 0} onClick={() => void show()}>
        {CARDS.showOn(chosen.length)}
      </Button>
      <Button variant="quiet" onClick={() => onDone(0)}>
        {CARDS.showOnNone}
      </Button>
    </section>
  );
}

const Why = ({ privacy, warns }: { privacy: Privacy | undefined; warns: boolean }) =>
  privacy ? <span className={warns ? 'private' : 'also'}>{CARD.why[privacy]}</span> : null;
