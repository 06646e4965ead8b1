'use client';
import { useRef, useState, type FormEvent } from 'react';
import { Button, Form } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { SPARES } from '@/core/words';
import { call } from '@/ui/studio/call';
import { invalid, ProblemNote } from '@/ui/studio/problem-note';
import type { Choice } from '@/ui/studio/picker';
import { PersonPicker } from './person-picker';

/** Gives codes and tags that were made in advance to people by their numbers, one after the other. */
export function GiveSpare({ onGiven }: { onGiven: (typed: string) => void }) {
  const [code, setCode] = useState('');
  const [person, setPerson] = useState<Choice | null>(null);
  const [given, setGiven] = useState('');
  const [problem, setProblem] = useState<Problem | null>(null);
  const field = useRef<HTMLInputElement>(null);
  async function give(event: FormEvent) {
    event.preventDefault();
    if (!person) return;
    const json = { recordId: person.id, code, placement: '' };
    const answer = await call<{ id: string }>('/api/spare-codes', { method: 'PUT', json });
    setProblem(answer.ok ? null : answer.problem);
    if (!answer.ok) return setGiven('');
    setGiven(SPARES.given(code.trim(), person.name));
    onGiven(code.trim());
    setCode('');
    setPerson(null);
    field.current?.focus();
  }
  return (
    <Form className="give-spare" onSubmit={(event) => void give(event)} noValidate>
      <h2 className="caps">{SPARES.giveTitle}</h2>
      <div className="pair">
        <Form.Group controlId="give-code">
          <Form.Label>{SPARES.number}</Form.Label>
          <Form.Control
            ref={field}
            className="mono"
            value={code}
            maxLength={300}
            autoComplete="off"
            onChange={({ target }) => (setCode(target.value), setProblem(null))}
            {...invalid('give-problem', problem !== null)}
          />
        </Form.Group>
        <PersonPicker word={SPARES.person} chosen={person} onChoose={setPerson} />
        <Button type="submit" disabled={!code.trim() || !person}>
          {SPARES.give}
        </Button>
      </div>
      <ProblemNote problem={problem} id="give-problem" />
      <p role="status" className="passed">
        {given}
      </p>
      <p className="note">{SPARES.giveNote}</p>
    </Form>
  );
}
