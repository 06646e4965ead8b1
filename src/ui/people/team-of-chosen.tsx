'use client';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { Form } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { PEOPLE } from '@/core/words';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';

type Props = { chosen: string[]; teams: { id: string; name: string }[]; inTeam: string | null };

/** Puts the people chosen into a team, one that is made for them, or out of the one that the list is of. */
export function TeamOfChosen({ chosen, teams, inTeam }: Props) {
  const router = useRouter();
  const [problem, setProblem] = useState<Problem | null>(null);
  const [naming, setNaming] = useState(false);
  async function put(team: string, into: boolean) {
    const answer = await call(`/api/teams/${team}/people`, { json: { records: chosen, into } });
    setProblem(answer.ok ? null : answer.problem);
    if (answer.ok) router.refresh();
  }
  async function make(name: string) {
    const made = await call<{ id: string }>('/api/teams', { json: { name } });
    if (!made.ok) return setProblem(made.problem);
    setNaming(false);
    await put(made.value.id, true);
  }
  return (
    <span className="team-of-chosen">
      {naming ? (
        <form
          onSubmit={(event) => {
            event.preventDefault();
            void make(String(new FormData(event.currentTarget).get('team') ?? ''));
          }}
        >
          <Form.Control
            size="sm"
            name="team"
            autoFocus
            maxLength={80}
            aria-label={PEOPLE.newTeam}
            placeholder={PEOPLE.newTeam}
          />
        </form>
      ) : (
        <Form.Select
          size="sm"
          aria-label={PEOPLE.intoTeam}
          value=""
          onChange={({ target }) => (target.value === 'new' ? setNaming(true) : void put(target.value, true))}
        >
          <option value="">{PEOPLE.intoTeam}</option>
          {teams.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
          <option value="new">{PEOPLE.newTeam}</option>
        </Form.Select>
      )}
      {inTeam && (
        <button type="button" className="plain" onClick={() => void put(inTeam, false)}>
          {PEOPLE.outOfTeam}
        </button>
      )}
      <ProblemNote problem={problem} />
    </span>
  );
}
