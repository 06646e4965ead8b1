'use client';
import { useEffect, useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { CODES } from '@/core/words';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';

type Occasion = { id: string; name: string; place: string; firstDay: string; lastDay: string };
const NEW = 'new';
const today = () => new Date().toLocaleDateString('sv-SE');

/** The fair or meeting that a code is for, if any; a new one is added here. */
export function OccasionField({ value, onValue }: { value: string | null; onValue: (id: string | null) => void }) {
  const [known, setKnown] = useState<Occasion[]>([]);
  const [adding, setAdding] = useState<Omit<Occasion, 'id'> | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  useEffect(() => {
    void call<{ occasions: Occasion[] }>('/api/occasions').then(
      (answer) => answer.ok && setKnown(answer.value.occasions),
    );
  }, []);
  async function add() {
    if (!adding) return;
    const answer = await call<{ id: string }>('/api/occasions', { json: adding });
    if (!answer.ok) return setProblem(answer.problem);
    setKnown([...known, { id: answer.value.id, ...adding }]);
    onValue(answer.value.id);
    setAdding(null);
    setProblem(null);
  }
  const set = (change: Partial<Occasion>) => adding && setAdding({ ...adding, ...change });
  return (
    <Form.Group controlId="code-occasion">
      <Form.Label>{CODES.occasion}</Form.Label>
      <Form.Select
        value={adding ? NEW : (value ?? '')}
        onChange={({ target }) => {
          if (target.value === NEW) setAdding({ name: '', place: '', firstDay: today(), lastDay: today() });
          else {
            setAdding(null);
            onValue(target.value || null);
          }
        }}
      >
        <option value="">{CODES.noOccasion}</option>
        {known.map(({ id, name, place }) => (
          <option key={id} value={id}>
            {place ? `${name}, ${place}` : name}
          </option>
        ))}
        <option value={NEW}>{CODES.newOccasion}</option>
      </Form.Select>
      {adding && (
        <div className="pair">
          <Form.Control
            aria-label={CODES.occasionName}
            placeholder={CODES.occasionName}
            value={adding.name}
            maxLength={LIMITS.placement}
            onChange={({ target }) => set({ name: target.value })}
          />
          <Form.Control
            aria-label={CODES.occasionPlace}
            placeholder={CODES.occasionPlace}
            value={adding.place}
            maxLength={LIMITS.placement}
            onChange={({ target }) => set({ place: target.value })}
          />
          <Form.Control
            className="short"
            type="date"
            aria-label={CODES.firstDay}
            value={adding.firstDay}
            onChange={({ target }) => set({ firstDay: target.value })}
          />
          <Form.Control
            className="short"
            type="date"
            aria-label={CODES.lastDay}
            value={adding.lastDay}
            onChange={({ target }) => set({ lastDay: target.value })}
          />
          <Button variant="quiet" disabled={!adding.name.trim()} onClick={() => void add()}>
            {CODES.newOccasion.replace(' …', '')}
          </Button>
        </div>
      )}
      <ProblemNote problem={problem} />
    </Form.Group>
  );
}
