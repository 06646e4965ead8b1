'use client';
import { useWindowVirtualizer } from '@tanstack/react-virtual';
import Link from 'next/link';
import { memo, useCallback, useEffect, useLayoutEffect, useRef, useState } from 'react';
import { sayFinding } from '@/core/findings';
import { CARD, COPIES, EXPORT, PEOPLE } from '@/core/words';
import { MARKS } from '@/ui/card/card-head';
import { shortDayIn } from '@/ui/studio/instant';
import type { ListedPerson } from '@/core/shown';

/** Lists up to this length are drawn whole, so that a browser's own search finds everybody. */
const MOST_WHOLE = 100;
/** A person with one card, in CSS pixels; what a row really takes is measured. */
const USUAL_HEIGHT = 57;

/** So many rows before the end the next ones are asked for. */
const NEAR_END = 30;

/** What a server, which knows no window, draws of it. */
const FIRST_RECT = { width: 1_280, height: 800 };
const estimateSize = () => USUAL_HEIGHT;

type Props = {
  people: ListedPerson[];
  zone: string;
  chosen: ReadonlySet<string>;
  onChoose: (id: string, on: boolean) => void;
  /** Asks for what comes after; null where this is everybody. */
  onEnd: (() => void) | null;
};

/** Everybody asked for; of a long list only the part in sight stands in the document, and what comes after is asked for in time. */
export function PeopleRows(props: Props) {
  return props.onEnd || props.people.length > MOST_WHOLE ? <InSight {...props} /> : <Whole {...props} />;
}

const Whole = ({ people, zone, chosen, onChoose }: Omit<Props, 'onEnd'>) =>
  people.map((person) => (
    <PersonRows key={person.id} person={person} zone={zone} chosen={chosen.has(person.id)} onChoose={onChoose} />
  ));

function InSight({ people, zone, chosen, onChoose, onEnd }: Props) {
  const list = useRef<HTMLDivElement>(null);
  const [top, setTop] = useState(0);
  useLayoutEffect(() => {
    setTop(list.current?.offsetTop ?? 0);
  }, []);
  const rows = useWindowVirtualizer({
    count: people.length,
    estimateSize,
    overscan: 12,
    scrollMargin: top,
    getItemKey: useCallback((at: number) => people[at]!.id, [people]),
    initialRect: FIRST_RECT,
  });
  const last = rows.getVirtualItems().at(-1)?.index ?? 0;
  const nearEnd = last >= people.length - NEAR_END;
  useEffect(() => {
    if (nearEnd) onEnd?.();
  }, [nearEnd, onEnd, people.length]);
  return (
    <div ref={list} style={{ height: rows.getTotalSize(), position: 'relative' }}>
      {rows.getVirtualItems().map(({ index, key, start }) => (
        <div
          key={key}
          ref={rows.measureElement}
          data-index={index}
          style={{ position: 'absolute', top: 0, left: 0, right: 0, transform: `translateY(${start - top}px)` }}
        >
          <PersonRows person={people[index]!} zone={zone} chosen={chosen.has(people[index]!.id)} onChoose={onChoose} />
        </div>
      ))}
    </div>
  );
}

const PersonRows = memo(function PersonRows({
  person,
  zone,
  chosen,
  onChoose,
}: {
  person: ListedPerson;
  zone: string;
  chosen: boolean;
  onChoose: (id: string, on: boolean) => void;
}) {
  return (
    <section className="person" aria-label={person.name}>
      <div className="person-name">
        <input
          type="checkbox"
          checked={chosen}
          aria-label={EXPORT.choose(person.name)}
          onChange={(event) => onChoose(person.id, event.target.checked)}
        />
        {person.picture ? (
          <img src={`/api/pictures/${person.picture}`} alt="" width={40} height={40} loading="lazy" />
        ) : (
          <span className="no-photo" aria-hidden="true" />
        )}
        <div>
          <Link href={`/people/${person.id}`} prefetch={false}>
            {person.name}
          </Link>
          <p>{person.role}</p>
        </div>
      </div>
      <div className="person-cards">
        {person.cards.map((card) => (
          <div className="people-row" key={card.id}>
            <span />
            <Link href={`/cards/${card.id}`} prefetch={false}>
              {card.audience}
            </Link>
            <span className={`state ${card.state}`}>
              <i aria-hidden="true">{MARKS[card.state]}</i>{' '}
              {card.state === 'published' ? CARD.publishedAs(card.revision) : CARD.state[card.state]}
              {card.failing && (
                <b className="failing" title={sayFinding(card.failing)}>
                  <i aria-hidden="true">!</i>
                  {PEOPLE.failing}
                </b>
              )}
              {card.wild > 0 && (
                <Link className="attention" href={`/copies?card=${card.id}`}>
                  {COPIES.wild(card.wild)}
                </Link>
              )}
            </span>
            <time dateTime={card.changed}>{shortDayIn(zone, card.changed)}</time>
            <span className="num">{card.state === 'published' ? card.week.views : ''}</span>
            <span className="num">{card.state === 'published' ? card.week.saves : ''}</span>
          </div>
        ))}
      </div>
    </section>
  );
});
