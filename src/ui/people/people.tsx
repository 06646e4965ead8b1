'use client';
import Link from 'next/link';
import { useState } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import { CARD, EXPORT, PEOPLE } from '@/core/messages';
import { ExportBar } from './export-bar';
import { NewPerson } from './new-person';
import type { PersonInList } from './person';

/** Everybody with their cards below each; with nobody yet, the first step. */
export function People({ people, mayAdd }: { people: PersonInList[]; mayAdd: boolean }) {
  const [adding, setAdding] = useState(false);
  const [filter, setFilter] = useState('');
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const choose = (id: string, on: boolean) =>
    setChosen(new Set(on ? [...chosen, id] : [...chosen].filter((each) => each !== id)));
  const wanted = filter.trim().toLowerCase();
  const shown = wanted
    ? people.filter((person) =>
        `${person.name} ${person.role} ${person.cards.map((card) => card.audience).join(' ')}`
          .toLowerCase()
          .includes(wanted),
      )
    : people;
  if (people.length === 0 && !mayAdd) {
    return (
      <section className="first">
        <h1>{PEOPLE.nothingOfYours}</h1>
        <p className="finding">{PEOPLE.nothingOfYoursText}</p>
      </section>
    );
  }
  if (people.length === 0) {
    return (
      <section className="first">
        <h1>{PEOPLE.firstTitle}</h1>
        <p className="finding">{PEOPLE.firstText}</p>
        <NewPerson />
      </section>
    );
  }
  return (
    <>
      <header className="head">
        <div>
          <h1>{PEOPLE.title}</h1>
          <p className="sub">{PEOPLE.counts(people.length, people.flatMap(({ cards }) => cards).length)}</p>
        </div>
        <div className="acts">
          {people.length > 5 && (
            <Form.Control
              type="search"
              aria-label={PEOPLE.filter}
              placeholder={PEOPLE.filterHint}
              value={filter}
              onChange={(event) => setFilter(event.target.value)}
              data-filter
            />
          )}
          {mayAdd && <Button onClick={() => setAdding(true)}>{PEOPLE.newPerson}</Button>}
        </div>
      </header>
      <div className="people">
        <div className="people-row people-names" aria-hidden="true">
          <span />
          <span>{PEOPLE.column.card}</span>
          <span>{PEOPLE.column.state}</span>
          <span>{PEOPLE.column.changed}</span>
          <span className="num">{PEOPLE.column.views}</span>
          <span className="num">{PEOPLE.column.saves}</span>
        </div>
        {shown.map((person) => (
          <PersonRows
            key={person.id}
            person={person}
            chosen={chosen.has(person.id)}
            onChoose={(on) => choose(person.id, on)}
          />
        ))}
        {shown.length === 0 && (
          <p className="nothing">
            {PEOPLE.nobodyMatches(filter)}{' '}
            <button type="button" className="plain" onClick={() => setFilter('')}>
              {PEOPLE.showEverybody}
            </button>
          </p>
        )}
      </div>
      {chosen.size > 0 && (
        <ExportBar
          chosen={[...chosen]}
          onAll={() => setChosen(new Set(shown.map(({ id }) => id)))}
          onNone={() => setChosen(new Set())}
        />
      )}
      <Modal show={adding} onHide={() => setAdding(false)} size="lg" aria-labelledby="new-person" animation={false}>
        <Modal.Header closeButton>
          <Modal.Title id="new-person">{PEOPLE.newPerson}</Modal.Title>
        </Modal.Header>
        <Modal.Body>
          <NewPerson />
        </Modal.Body>
      </Modal>
    </>
  );
}

const MARKS = { draft: '○', published: '●', resting: '◐', retired: '×' } as const;

function PersonRows({
  person,
  chosen,
  onChoose,
}: {
  person: PersonInList;
  chosen: boolean;
  onChoose: (on: boolean) => void;
}) {
  return (
    <section className="person" aria-label={person.name}>
      <div className="person-name">
        <input
          type="checkbox"
          checked={chosen}
          aria-label={EXPORT.choose(person.name)}
          onChange={(event) => onChoose(event.target.checked)}
        />
        {person.picture ? (
          <img src={`/api/pictures/${person.picture}`} alt="" width={40} height={40} loading="lazy" />
        ) : (
          <span className="no-photo" aria-hidden="true" />
        )}
        <div>
          <Link href={`/people/${person.id}`}>{person.name}</Link>
          <p>{person.role}</p>
        </div>
      </div>
      <div className="person-cards">
        {person.cards.map((card) => (
          <div className="people-row" key={card.id}>
            <span />
            <Link href={`/cards/${card.id}`}>{card.audience}</Link>
            <span className={`state ${card.state}`}>
              <i aria-hidden="true">{MARKS[card.state]}</i>{' '}
              {card.state === 'published' ? CARD.publishedAs(card.revision) : CARD.state[card.state]}
            </span>
            <time dateTime={card.changed} suppressHydrationWarning>
              {new Date(card.changed).toLocaleDateString('en-GB', { day: 'numeric', month: 'short' })}
            </time>
            <span className="num">{card.state === 'published' ? card.week.views : ''}</span>
            <span className="num">{card.state === 'published' ? card.week.saves : ''}</span>
          </div>
        ))}
      </div>
    </section>
  );
}
