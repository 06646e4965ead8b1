'use client';
import { useState, type FormEvent } from 'react';
import { Button, Form, InputGroup } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import type { Look } from '@/core/look';
import { LOOK } from '@/core/words';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';
import { Section } from './look-fields';

export type KeptLook = { id: string; name: string; look: Look };

/** The looks that this person has put by, to dress other cards with. */
export function KeptLooks({ first, look, onUse }: { first: KeptLook[]; look: Look; onUse: (look: Look) => void }) {
  const [kept, setKept] = useState(first);
  const [name, setName] = useState('');
  const [problem, setProblem] = useState<Problem | null>(null);
  async function keep(event: FormEvent) {
    event.preventDefault();
    const answer = await call<KeptLook>('/api/looks', { json: { name, look } });
    if (!answer.ok) return setProblem(answer.problem);
    setProblem(null);
    setName('');
    setKept([...kept, answer.value].sort((a, b) => a.name.localeCompare(b.name)));
  }
  async function remove(id: string) {
    const answer = await call(`/api/looks/${id}`, { method: 'DELETE' });
    if (!answer.ok) return setProblem(answer.problem);
    setKept(kept.filter((each) => each.id !== id));
  }
  return (
    <Section title={LOOK.kept}>
      {kept.length === 0 ? (
        <p className="note">{LOOK.keptNone}</p>
      ) : (
        <ul className="kept-looks">
          {kept.map(({ id, name: called, look: own }) => (
            <li key={id}>
              <span className="swatch" aria-hidden="true">
                {(['band', 'act', 'sheet', 'ink'] as const).map((each) => (
                  <i key={each} style={{ background: own.palette[each] }} />
                ))}
              </span>
              <b>{called}</b>
              <small>{LOOK.layouts[own.layout][0]}</small>
              <Button size="sm" variant="quiet" aria-label={LOOK.keptUse(called)} onClick={() => onUse(own)}>
                {LOOK.use}
              </Button>
              <button
                type="button"
                className="plain"
                aria-label={LOOK.keptRemove(called)}
                onClick={() => void remove(id)}
              >
                {LOOK.remove}
              </button>
            </li>
          ))}
        </ul>
      )}
      <Form onSubmit={keep}>
        <InputGroup size="sm" className="keep-look">
          <Form.Control
            aria-label={LOOK.keptName}
            placeholder={LOOK.keptName}
            value={name}
            maxLength={LIMITS.label}
            onChange={({ target }) => setName(target.value)}
          />
          <Button type="submit" variant="quiet" disabled={name.trim() === ''}>
            {LOOK.keep}
          </Button>
        </InputGroup>
        <ProblemNote problem={problem} />
      </Form>
    </Section>
  );
}
