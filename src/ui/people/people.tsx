'use client';
import Link from 'next/link';
import { useDeferredValue, useMemo, useState } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import { COPIES, DELETION, PEOPLE, PRIVACY, REFER, ROSTER, TAGS } from '@/core/words';
import type { PeoplePage } from '@/core/shown';
import { ProblemNote } from '@/ui/studio/problem-note';
import { useStable } from '@/ui/studio/use-stable';
import { ExportBar } from './export-bar';
import { GroupFilter, type ShownGroup } from './group-filter';
import { PeopleRows } from './people-rows';
import { NewPerson } from './new-person';
import { usePeople } from './use-people';

type Props = {
  /** The first page of them. */
  first: PeoplePage;
  /** How many people and cards are deleted and can be brought back. */
  deleted: number;
  /** How many copies are out of date and not dealt with. */
  wild: number;
  mayAdd: boolean;
  seesPrivacy: boolean;
  /** Teams that the list can be narrowed to. */
  teams: { id: string; name: string; people: number }[];
  /** Offices that it can be narrowed to as well. */
  offices: { id: string; name: string }[];
  mayTeam: boolean;
  /** Whether one thing can be changed for many. */
  mayChange: boolean;
  /** What the list is narrowed to, as its address says it, and in words. */
  group: ShownGroup | null;
  country: string;
  zone: string;
  /** The signed-in person, who begins with a card of their own. */
  self: { name: string; email: string };
};

/** Everybody with their cards below each; with nobody yet, the first step. */
export function People({
  first,
  deleted,
  wild,
  mayAdd,
  seesPrivacy,
  teams,
  offices,
  mayTeam,
  mayChange,
  group,
  country,
  zone,
  self,
}: Props) {
  const [adding, setAdding] = useState(false);
  const [filter, setFilter] = useState('');
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const choose = useStable((id: string, on: boolean) =>
    setChosen(new Set(on ? [...chosen, id] : [...chosen].filter((each) => each !== id))),
  );
  // The field answers each key stroke at once; a long list follows as soon as it can.
  const wanted = useDeferredValue(filter).trim().toLowerCase();
  const list = usePeople(first, wanted, group?.asked ?? '');
  const { people } = list.shown;
  const texts = useMemo(
    () =>
      people.map((person) =>
        `${person.name} ${person.role} ${person.cards.map((card) => card.audience).join(' ')}`.toLowerCase(),
      ),
    [people],
  );
  const shown = useMemo(
    () =>
      wanted && list.whole
        ? people.filter((_, at) => wanted.split(/\s+/).every((word) => texts[at]!.includes(word)))
        : people,
    [people, texts, wanted, list.whole],
  );
  const chooseAll = async () => {
    const ids = list.whole ? shown.map(({ id }) => id) : await list.everybody();
    if (ids) setChosen(new Set(ids));
  };
  if (first.matching === 0 && !mayAdd && !group) {
    return (
      <section className="first">
        <h1>{PEOPLE.nothingOfYours}</h1>
        <p className="finding">{PEOPLE.nothingOfYoursText}</p>
      </section>
    );
  }
  if (first.matching === 0 && !group) {
    return (
      <section className="first">
        <h1>{PEOPLE.firstTitle}</h1>
        <p className="finding">{PEOPLE.firstText}</p>
        <NewPerson country={country} zone={zone} self={self} />
        {deleted > 0 && (
          <p className="aside">
            <Link href="/people/deleted">{DELETION.link(deleted)}</Link>
          </p>
        )}
      </section>
    );
  }
  return (
    <>
      <header className="head">
        <div>
          <h1>{PEOPLE.title}</h1>
          <p className="sub">
            {PEOPLE.counts(first.matching, first.cards)}
            {group && first.matching > 0 && (
              <button type="button" className="plain" onClick={() => void chooseAll()}>
                {PEOPLE.chooseThese(first.matching)}
              </button>
            )}
            {deleted > 0 && <Link href="/people/deleted">{DELETION.link(deleted)}</Link>}
            <Link href="/refer">{REFER.link}</Link>
            <Link href="/copies" className={wild > 0 ? 'attention' : undefined}>
              {wild > 0 ? COPIES.wild(wild) : COPIES.title}
            </Link>
            <Link href="/tags">{TAGS.rows.link}</Link>
            {mayAdd && <Link href="/roster">{ROSTER.open}</Link>}
            {seesPrivacy && <Link href="/privacy">{PRIVACY.link}</Link>}
          </p>
        </div>
        <div className="acts">
          {(teams.length > 0 || offices.length > 0 || group) && (
            <GroupFilter teams={teams} offices={offices} group={group} />
          )}
          {first.matching > 5 && (
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
        <PeopleRows people={shown} zone={zone} chosen={chosen} onChoose={choose} onEnd={list.more} />
        {list.more && <p className="nothing">{PEOPLE.partOf(shown.length, list.shown.matching)}</p>}
        <ProblemNote problem={list.problem} />
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
          of={list.whole ? shown.length : list.shown.matching}
          teams={mayTeam ? teams : null}
          mayChange={mayChange}
          offices={offices}
          inTeam={/^team=(.*)/.exec(group?.asked ?? '')?.[1] ?? null}
          onAll={() => void chooseAll()}
          onNone={() => setChosen(new Set())}
        />
      )}
      <Modal show={adding} onHide={() => setAdding(false)} size="lg" aria-labelledby="new-person" animation={false}>
        <Modal.Header closeButton>
          <Modal.Title id="new-person">{PEOPLE.newPerson}</Modal.Title>
        </Modal.Header>
        <Modal.Body>
          <NewPerson country={country} zone={zone} self={null} />
        </Modal.Body>
      </Modal>
    </>
  );
}
