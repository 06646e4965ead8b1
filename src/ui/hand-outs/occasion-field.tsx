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

type Props = {
  value: string | null;
  /** With its name and place, where one is chosen. */
  onValue: (id: string | null, occasion: { name: string; place: string } | null) => void;
  /** One that is over and not offered any more, but chosen. */
  past?: { id: string; name: string } | null;
};

/** The fair or meeting that a code is for, if any; one is added, set right or removed here. */
export function OccasionField({ value, onValue, past = null }: Props) {
  const [known, setKnown] = useState<Occasion[]>([]);
  const [open, setOpen] = useState<Occasion | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  useEffect(() => {
    void call<{ occasions: Occasion[] }>('/api/occasions').then(
      (answer) => answer.ok && setKnown(answer.value.occasions),
    );
  }, []);
  const chosen = known.find(({ id }) => id === value);
  function close() {
    setOpen(null);
    setProblem(null);
  }
  async function keep({ id, ...typed }: Occasion) {
    const answer =
      id === NEW
        ? await call<{ id: string }>('/api/occasions', { json: typed })
        : await call<null>(`/api/occasions/${id}`, { method: 'PUT', json: typed });
    if (!answer.ok) return setProblem(answer.problem);
    const kept = { id: answer.value && 'id' in answer.value ? answer.value.id : id, ...typed };
    setKnown([...known.filter((each) => each.id !== kept.id), kept]);
    onValue(kept.id, kept);
    close();
  }
  async function remove({ id }: Occasion) {
    const answer = await call(`/api/occasions/${id}`, { method: 'DELETE' });
    if (!answer.ok) return setProblem(answer.problem);
    setKnown(known.filter((each) => each.id !== id));
    onValue(null, null);
    close();
  }
  return (
    <Form.Group controlId="code-occasion">
      <Form.Label>{CODES.occasion}</Form.Label>
      <div className="pair">
        <Form.Select
          value={open?.id === NEW ? NEW : (value ?? '')}
          onChange={({ target }) => {
            close();
            if (target.value === NEW) setOpen({ id: NEW, name: '', place: '', firstDay: today(), lastDay: today() });
            else onValue(target.value || null, known.find(({ id }) => id === target.value) ?? null);
          }}
        >
          <option value="">{CODES.noOccasion}</option>
          {known.map(({ id, name, place }) => (
            <option key={id} value={id}>
              {place ? `${name}, ${place}` : name}
            </option>
          ))}
          {past && !known.some(({ id }) => id === past.id) && <option value={past.id}>{past.name}</option>}
          <option value={NEW}>{CODES.newOccasion}</option>
        </Form.Select>
        {chosen && !open && (
          <Button variant="quiet" onClick={() => setOpen(chosen)}>
            {CODES.changeOccasion}
          </Button>
        )}
      </div>
      {open && (
        <OccasionForm
          occasion={open}
          onChange={setOpen}
          onKeep={() => void keep(open)}
          onRemove={open.id === NEW ? null : () => void remove(open)}
          onLeave={close}
        />
      )}
      <ProblemNote problem={problem} />
    </Form.Group>
  );
}

function OccasionForm({
  occasion,
  onChange,
  onKeep,
  onRemove,
  onLeave,
}: {
  occasion: Occasion;
  onChange: (occasion: Occasion) => void;
  onKeep: () => void;
  onRemove: (() => void) | null;
  onLeave: () => void;
}) {
  const { name, place, firstDay, lastDay } = occasion;
  const set = (change: Partial<Occasion>) => onChange({ ...occasion, ...change });
  return (
    <fieldset className="occasion-form">
      <legend className="visually-hidden">{CODES.occasion}</legend>
      <Labelled id="occasion-name" word={CODES.occasionName}>
        <Form.Control
          value={name}
          maxLength={LIMITS.placement}
          onChange={({ target }) => set({ name: target.value })}
        />
      </Labelled>
      <Labelled id="occasion-place" word={CODES.occasionPlace}>
        <Form.Control
          value={place}
          maxLength={LIMITS.placement}
          onChange={({ target }) => set({ place: target.value })}
        />
      </Labelled>
      <Labelled id="occasion-first" word={CODES.firstDay}>
        <Form.Control
          type="date"
          value={firstDay}
          // The last day is never before the first.
          onChange={({ target }) =>
            set({ firstDay: target.value, lastDay: lastDay < target.value ? target.value : lastDay })
          }
        />
      </Labelled>
      <Labelled id="occasion-last" word={CODES.lastDay}>
        <Form.Control
          type="date"
          min={firstDay}
          value={lastDay}
          onChange={({ target }) => set({ lastDay: target.value })}
        />
      </Labelled>
      <div className="pair">
        <Button variant="quiet" disabled={!name.trim() || !firstDay || lastDay < firstDay} onClick={onKeep}>
          {CODES.keepOccasion}
        </Button>
        <Button variant="quiet" onClick={onLeave}>
          {CODES.leaveOccasion}
        </Button>
        {onRemove && (
          <Button variant="quiet" onClick={onRemove}>
            {CODES.removeOccasion}
          </Button>
        )}
      </div>
    </fieldset>
  );
}

const Labelled = ({ id, word, children }: { id: string; word: string; children: React.ReactNode }) => (
  <Form.Group controlId={id}>
    <Form.Label>{word}</Form.Label>
    {children}
  </Form.Group>
);
