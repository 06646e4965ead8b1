'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect, useMemo, useState, type FormEvent } from 'react';
import { Button, Form } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import type { MendAct, PrivacyMap } from '@/core/shown';
import { PRIVACY } from '@/core/words';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';
import { addressOf, MapCounts, type Asked } from './map-counts';
import { MendDialog } from './mend-dialog';
import { PublicValues } from './public-values';

type Props = { first: PrivacyMap; asked: Asked; organisation: string; today: string; mayMend: boolean };

/** Who has something private in public: how many by kind and form, then person by person, and what can be done about it at once. */
export function PrivacyMapScreen({ first, asked, organisation, today, mayMend }: Props) {
  const router = useRouter();
  const [people, setPeople] = useState(first.people);
  const [next, setNext] = useState(first.next);
  const [typed, setTyped] = useState(asked.typed);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [act, setAct] = useState<MendAct | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const records = useMemo(() => [...chosen], [chosen]);
  const { counts, exposed, matching, waiting } = first;
  const isNarrow = asked.privacy !== null || asked.channel !== null || asked.typed !== '';
  // People of before the map are looked at some at a time; the page asks again until everybody was.
  useEffect(() => {
    if (waiting === 0) return;
    const again = setTimeout(() => router.refresh(), 300);
    return () => clearTimeout(again);
  }, [waiting, first, router]);
  async function load(all: boolean): Promise<PrivacyMap['people'] | null> {
    let found = people;
    let from = next;
    while (from !== null) {
      const answer = await call<PrivacyMap>(addressOf(asked, '/api/privacy', from));
      setProblem(answer.ok ? null : answer.problem);
      if (!answer.ok) return null;
      found = [...found, ...answer.value.people];
      from = answer.value.next;
      setPeople(found);
      setNext(from);
      if (!all) break;
    }
    return found;
  }
  async function chooseAll() {
    const all = await load(true);
    if (all) setChosen(new Set(all.slice(0, LIMITS.mendedTogether).map(({ id }) => id)));
  }
  async function print() {
    if (await load(true)) setTimeout(() => window.print());
  }
  function search(event: FormEvent) {
    event.preventDefault();
    router.push(addressOf({ ...asked, typed: typed.trim() }, '/privacy'));
  }
  const choose = (id: string, on: boolean) =>
    setChosen(new Set(on ? [...chosen, id] : [...chosen].filter((each) => each !== id)));
  return (
    <>
      <header className="head">
        <div>
          <h1>{PRIVACY.title}</h1>
          <p className="sub">{PRIVACY.record(organisation, today)}</p>
        </div>
        {exposed > 0 && (
          <div className="acts">
            <Form role="search" onSubmit={search}>
              <Form.Control
                type="search"
                aria-label={PRIVACY.filter}
                placeholder={PRIVACY.filterHint}
                value={typed}
                maxLength={200}
                onChange={({ target }) => setTyped(target.value)}
                data-filter
              />
            </Form>
            <Button variant="quiet" onClick={() => void print()}>
              {PRIVACY.print}
            </Button>
          </div>
        )}
      </header>
      <div className="privacy-map">
        <p className="finding">{exposed > 0 ? PRIVACY.finding(exposed, first.of) : PRIVACY.none}</p>
        <p className="note">{exposed > 0 ? PRIVACY.recordText : PRIVACY.noneText}</p>
        {waiting > 0 && <p role="status">{PRIVACY.waiting(waiting)}</p>}
        {exposed > 0 && <MapCounts counts={counts} asked={asked} />}
        <ProblemNote problem={problem} />
        {isNarrow && (
          <p className="map-showing">
            <strong>
              {PRIVACY.showing(
                matching,
                asked.privacy && PRIVACY.kind[asked.privacy],
                asked.channel && PRIVACY.on[asked.channel],
              )}
            </strong>{' '}
            <Link href="/privacy" scroll={false}>
              {PRIVACY.clear}
            </Link>
          </p>
        )}
        {mayMend && people.length > 1 && chosen.size === 0 && (
          <p>
            <button type="button" className="plain" onClick={() => void chooseAll()}>
              {PRIVACY.chooseAll(Math.min(matching, LIMITS.mendedTogether))}
            </button>
          </p>
        )}
        {isNarrow && people.length === 0 && <p className="nothing">{PRIVACY.noMatch}</p>}
        {people.length > 0 && (
          <ul className="map-people">
            {people.map(({ id, name, values }) => (
              <li key={id}>
                <span className="map-person">
                  {mayMend && (
                    <Form.Check
                      id={`choose-${id}`}
                      aria-label={PRIVACY.choose(name)}
                      checked={chosen.has(id)}
                      onChange={({ target }) => choose(id, target.checked)}
                    />
                  )}
                  <Link href={`/people/${id}`}>{name}</Link>
                </span>
                <PublicValues values={values} />
              </li>
            ))}
          </ul>
        )}
        {next && (
          <Button variant="quiet" className="more" onClick={() => void load(false)}>
            {PRIVACY.more}
          </Button>
        )}
      </div>
      {chosen.size > 0 && (
        <div className="chosen-bar" role="region" aria-live="polite" aria-label={PRIVACY.chosen(chosen.size)}>
          <strong>{PRIVACY.chosen(chosen.size)}</strong>
          <button type="button" className="plain" onClick={() => void chooseAll()}>
            {PRIVACY.chooseAll(Math.min(matching, LIMITS.mendedTogether))}
          </button>
          <button type="button" className="plain" onClick={() => setChosen(new Set())}>
            {PRIVACY.choiceNone}
          </button>
          <Button onClick={() => setAct('take off')}>{PRIVACY.act['take off']} …</Button>
          <Button variant="quiet" onClick={() => setAct('for work')}>
            {PRIVACY.act['for work']} …
          </Button>
        </div>
      )}
      {act && (
        <MendDialog
          act={act}
          records={records}
          kinds={asked.privacy ? [asked.privacy] : counts.map(({ privacy }) => privacy)}
          onClose={() => setAct(null)}
        />
      )}
    </>
  );
}
