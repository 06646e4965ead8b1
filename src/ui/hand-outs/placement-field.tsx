'use client';
import { useEffect, useState } from 'react';
import { Form } from 'react-bootstrap';
import { LIMITS } from '@/core/limits';
import { CODES } from '@/core/words';
import { call } from '@/ui/studio/call';
import { invalid } from '@/ui/studio/problem-note';

type Props = { value: string; onValue: (placement: string) => void; wrong: boolean };

/** Where a code will be; places that hand-outs are at already are suggested, so that one place keeps one name. */
export function PlacementField({ value, onValue, wrong }: Props) {
  const [known, setKnown] = useState<string[]>([]);
  useEffect(() => {
    void call<{ placements: string[] }>('/api/placements').then(
      (answer) => answer.ok && setKnown(answer.value.placements),
    );
  }, []);
  return (
    <Form.Group controlId="code-placement">
      <Form.Label>{CODES.placement}</Form.Label>
      <Form.Control
        value={value}
        list="placements"
        autoComplete="off"
        placeholder={CODES.placementHint}
        maxLength={LIMITS.placement}
        onChange={({ target }) => onValue(target.value)}
        {...invalid('code-problem', wrong)}
      />
      <datalist id="placements">
        {known.map((name) => (
          <option key={name} value={name} />
        ))}
      </datalist>
    </Form.Group>
  );
}
