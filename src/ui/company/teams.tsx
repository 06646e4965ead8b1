'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState, type FormEvent } from 'react';
import { Button, Form } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { COMPANY, FRAME } from '@/core/words';
import { EditableCell } from '@/ui/card/ledger/editable-cell';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';
import { TeamLeaders } from './team-leaders';

type Leader = { id: string; name: string };
type Props = {
  teams: { id: string; name: string; people: number; leaders: Leader[] }[];
  mayChange: boolean;
  /** Members who could lead one; null for whoever does not manage members. */
  possible: Leader[] | null;
};

/** Teams with how many people each has; renamed in place. Removing one leaves its people as they are. */
export function Teams({ teams, mayChange, possible }: Props) {
  const router = useRouter();
  const [problem, setProblem] = useState<Problem | null>(null);
  const [name, setName] = useState('');
  const words = COMPANY.teams;
  async function act(asked: Promise<{ ok: true } | { ok: false; problem: Problem }>) {
    const answer = await asked;
    setProblem(answer.ok ? null : answer.problem);
    if (answer.ok) router.refresh();
    return answer.ok;
  }
  async function add(event: FormEvent) {
    event.preventDefault();
    if (await act(call('/api/teams', { json: { name } }))) setName('');
  }
  return (
    <div className="company">
      <p className="finding">{teams.length === 0 ? words.none : words.text}</p>
      {teams.length > 0 && (
        <p className="small">
          {words.leadersText} {possible?.length === 0 && words.noLeaders}
        </p>
      )}
      {teams.length > 0 && (
        <div className="wide" tabIndex={0} role="region" aria-label={COMPANY.turn.teams}>
          <table className="rows">
            <thead>
              <tr>
                <th>{words.team}</th>
                <th className="num">{words.people}</th>
                <th className="led-by">{words.ledBy}</th>
                <th>
                  <span className="visually-hidden">{FRAME.acts}</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {teams.map(({ id, name: called, people, leaders }, row) => (
                <tr key={id}>
                  <td>
                    {mayChange ? (
                      <EditableCell
                        key={called}
                        row={row}
                        column={1}
                        value={called}
                        name={words.nameOf(called)}
                        onCommit={(typed) =>
                          void act(call(`/api/teams/${id}`, { method: 'PUT', json: { name: typed } }))
                        }
                      />
                    ) : (
                      called
                    )}
                  </td>
                  <td className="num">
                    <Link href={`/people?team=${id}`} aria-label={words.peopleOf(called, people)}>
                      {people}
                    </Link>
                  </td>
                  <td className="led-by">
                    <TeamLeaders
                      team={called}
                      leaders={leaders}
                      possible={possible}
                      onLeaders={(ids) =>
                        void act(call(`/api/teams/${id}/leaders`, { method: 'PUT', json: { leaders: ids } }))
                      }
                    />
                  </td>
                  <td className="acts-cell">
                    {mayChange && (
                      <button
                        type="button"
                        className="plain"
                        aria-label={words.remove(called)}
                        onClick={() => void act(call(`/api/teams/${id}`, { method: 'DELETE' }))}
                      >
                        {FRAME.remove}
                      </button>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      {mayChange && (
        <Form className="new-team" onSubmit={(event) => void add(event)}>
          <Form.Control
            size="sm"
            aria-label={words.new}
            placeholder={words.new}
            value={name}
            maxLength={80}
            onChange={({ target }) => setName(target.value)}
          />
          <Button size="sm" variant="quiet" type="submit" disabled={name.trim() === ''}>
            {words.add}
          </Button>
        </Form>
      )}
      <ProblemNote problem={problem} />
    </div>
  );
}
