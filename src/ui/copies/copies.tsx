'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState, type FormEvent } from 'react';
import { Button, Form } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import type { CopiesPage } from '@/core/shown';
import { COPIES, HAND_OUTS } from '@/core/words';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';
import { CopyEntry, GoneEntry } from './copy-entry';

/** What the list is of: copies that are out of date, all, or those that carry a value; of all cards, of one, or of one hand-out. */
export type Listed = { which: 'wild' | 'all'; value: string; card: string | null; handOut: string | null };

const addressOf = ({ which, value, card, handOut }: Listed, start: string, after: string | null = null): string => {
  const asked = new URLSearchParams();
  if (which === 'all') asked.set('all', '');
  if (value) asked.set('q', value);
  if (card) asked.set('card', card);
  if (handOut) asked.set('handOut', handOut);
  if (after) asked.set('after', after);
  const text = asked.toString().replace(/=(?=&|$)/g, '');
  return text ? `${start}?${text}` : start;
};

type Props = { first: CopiesPage; listed: Listed; zone: string; mayMark: boolean };

/** A worklist of copies that are out: what each carries, what the card says now, and what can be done. */
export function Copies({ first, listed, zone, mayMark }: Props) {
  const router = useRouter();
  const [{ copies, next, unsettled }, setPage] = useState(first);
  const [typed, setTyped] = useState(listed.value);
  const [problem, setProblem] = useState<Problem | null>(null);
  function search(event: FormEvent) {
    event.preventDefault();
    router.push(addressOf({ ...listed, value: typed.trim() }, '/copies'));
  }
  async function more() {
    const answer = await call<CopiesPage>(addressOf(listed, '/api/copies', next));
    setProblem(answer.ok ? null : answer.problem);
    if (answer.ok) setPage({ ...answer.value, copies: [...copies, ...answer.value.copies] });
  }
  async function mark(id: string, done: boolean) {
    const answer = await call(`/api/copies/${id}`, { method: 'PUT', json: { done } });
    setProblem(answer.ok ? null : answer.problem);
    if (!answer.ok) return;
    const at = done ? new Date().toISOString() : null;
    const counts = copies.some((copy) => copy.id === id && copy.values.some(({ old }) => old) && !copy.retired);
    setPage((page) => ({
      ...page,
      copies: page.copies.map((copy) => (copy.id === id ? { ...copy, done: at } : copy)),
      unsettled: page.unsettled + (counts ? (done ? -1 : 1) : 0),
    }));
  }
  return (
    <>
      <header className="head">
        <div>
          <h1>
            {COPIES.title} {first.of && <small>{COPIES.of(first.of)}</small>}
          </h1>
          <nav className="period sub" aria-label={COPIES.whichLabel}>
            {(['wild', 'all'] as const).map((which) => (
              <Link
                key={which}
                href={addressOf({ ...listed, which, value: '' }, '/copies')}
                className={listed.which === which && !listed.value ? 'on' : ''}
                aria-current={listed.which === which && !listed.value ? 'page' : undefined}
              >
                {COPIES.which[which]}
              </Link>
            ))}
          </nav>
        </div>
        <Form className="acts" role="search" onSubmit={search}>
          <Form.Control
            type="search"
            aria-label={COPIES.search}
            placeholder={COPIES.searchHint}
            value={typed}
            maxLength={200}
            onChange={({ target }) => setTyped(target.value)}
            data-filter
          />
          <Button type="submit" variant="quiet">
            {COPIES.search}
          </Button>
        </Form>
      </header>
      <div className="copies">
        <Finding listed={listed} unsettled={unsettled} found={copies.length} more={next !== null} />
        <ProblemNote problem={problem} />
        <ul className="copy-list">
          {copies.map((copy) => (
            <CopyEntry key={copy.id} copy={copy} zone={zone} onMark={mayMark ? mark : null} />
          ))}
        </ul>
        {next && (
          <Button variant="quiet" onClick={() => void more()}>
            {COPIES.more}
          </Button>
        )}
        {first.gone.length > 0 && (
          <section className="gone" aria-labelledby="gone">
            <h2 className="caps" id="gone">
              {COPIES.gone}
            </h2>
            <p className="note">{COPIES.goneText}</p>
            <ul className="copy-list">
              {first.gone.map((gone) => (
                <GoneEntry key={gone.cardId} gone={gone} />
              ))}
            </ul>
          </section>
        )}
      </div>
    </>
  );
}

/** The sentence above the list. */
function Finding({
  listed,
  unsettled,
  found,
  more,
}: {
  listed: Listed;
  unsettled: number;
  found: number;
  more: boolean;
}) {
  if (listed.value && found > 0) return <p className="finding">{COPIES.found(found, more, listed.value)}</p>;
  if (listed.value)
    return (
      <>
        <p className="finding">{COPIES.nowhere(listed.value)}</p>
        <p className="note">{COPIES.nowhereText}</p>
      </>
    );
  if (unsettled > 0) return <p className="finding">{COPIES.finding(unsettled)}</p>;
  if (listed.which === 'all' && found === 0)
    return (
      <>
        <p className="finding">{COPIES.nothingOut}</p>
        <p className="note">{COPIES.nothingOutText}</p>
        {listed.card && (
          <Link className="btn btn-quiet" href={`/cards/${listed.card}/hand-outs`}>
            {HAND_OUTS.page}
          </Link>
        )}
      </>
    );
  return (
    <>
      <p className="finding">{COPIES.allTrue}</p>
      <p className="note">{COPIES.allTrueText}</p>
    </>
  );
}
