'use client';
import { useEffect, useMemo, useState } from 'react';
import type { Composition } from '@/core/card';
import { applyHouseStyle, type HouseStyle } from '@/core/house';
import { HOUSE } from '@/core/words';
import { specimenPage } from '@/core/specimen';
import { CardPicker } from '@/ui/card/card-picker';
import { PageView } from '@/ui/card/specimen/page-view';
import { usePlates } from '@/ui/card/specimen/use-plates';
import { useWords } from '@/ui/card/specimen/use-words';
import { call } from '@/ui/studio/call';
import { byNight } from '@/ui/look/by-night';
import { Choice } from '@/ui/look/choice';
import { HouseFace } from './house-face';

export type CardBeside = { id: string; person: string; audience: string; composition: Composition };

const VIEWS = ['page', 'night', 'card-lying', 'link'] as const;
type View = (typeof VIEWS)[number];

/** The cards that stand beside a house style; null until they are known. */
export function useCardsBeside(): CardBeside[] | null {
  const [cards, setCards] = useState<CardBeside[] | null>(null);
  useEffect(() => {
    void call<{ cards: CardBeside[] }>('/api/house/cards').then((answer) => answer.ok && setCards(answer.value.cards));
  }, []);
  return cards;
}

/** Three real cards in the house style as it stands in the form: their pages, drawn cards and link previews. */
export function HouseBeside({ cards, style }: { cards: CardBeside[] | null; style: HouseStyle }) {
  const [view, setView] = useState<View>('page');
  const [others, setOthers] = useState<Record<number, CardBeside>>({});
  const [choosing, setChoosing] = useState<number | null>(null);
  if (!cards) return null;
  if (cards.length === 0) return <p className="note">{HOUSE.besideNone}</p>;
  async function choose(at: number, id: string | null) {
    const answer = id && (await call<CardBeside>(`/api/house/cards/${id}`));
    setChoosing(null);
    if (answer && answer.ok) setOthers({ ...others, [at]: answer.value });
  }
  return (
    <section className="house-beside" aria-label={HOUSE.beside}>
      <Choice of={HOUSE.beside} among={VIEWS} words={HOUSE.besideViews} value={view} onChoose={setView} />
      <ul className={`on-${view}`}>
        {cards.map((first, at) => {
          const card = others[at] ?? first;
          return (
            <li key={at}>
              <p>
                <b>{card.person}</b> <small>{card.audience}</small>
              </p>
              {view === 'page' || view === 'night' ? (
                <Page card={card} style={style} night={view === 'night'} />
              ) : (
                <HouseFace
                  card={card.id}
                  style={style}
                  name={view}
                  alt={`${HOUSE.besideViews[view]}: ${card.person}`}
                />
              )}
              <button
                type="button"
                className="plain"
                aria-label={HOUSE.anotherOf(card.person)}
                aria-expanded={choosing === at}
                onClick={() => setChoosing(choosing === at ? null : at)}
              >
                {HOUSE.another}
              </button>
            </li>
          );
        })}
      </ul>
      {choosing !== null && (
        <CardPicker
          key={choosing}
          word={HOUSE.another}
          hint={HOUSE.anotherHint}
          except={null}
          chosen={null}
          onChoose={(id) => void choose(choosing, id)}
        />
      )}
      <p className="note">{HOUSE.besideNote}</p>
    </section>
  );
}

function Page({ card, style, night }: { card: CardBeside; style: HouseStyle; night: boolean }) {
  const [now] = useState(() => Date.now());
  const worn = useMemo(() => applyHouseStyle(card.composition, style), [card.composition, style]);
  const plates = usePlates(worn, style);
  const worded = useWords(worn.language ?? 'en');
  const page = useMemo(() => {
    const shown = night ? byNight(worn, worn.look) : worn;
    return specimenPage(shown, {
      language: null,
      now,
      drawn: null,
      house: style,
      plates: plates && night ? { day: plates.night, night: plates.night } : plates,
    });
  }, [worn, style, night, now, plates]);
  return (
    <div className="house-page" tabIndex={0} role="group" aria-label={HOUSE.pageOf(card.person)}>
      {worded && <PageView page={page} />}
    </div>
  );
}
