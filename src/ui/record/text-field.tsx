'use client';
import { useState } from 'react';
import { Form } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { invalid, ProblemNote } from '@/ui/studio/problem-note';

/** A labelled field that keeps what was typed when it is left or with Enter; a problem stays beside it, the text in it. */
export function TextField({
  id,
  label,
  value,
  placeholder,
  className,
  onKeep,
}: {
  id: string;
  label: string;
  value: string;
  placeholder?: string;
  className?: string;
  onKeep: (typed: string) => Problem | void;
}) {
  const [typed, setTyped] = useState(value);
  const [problem, setProblem] = useState<Problem | null>(null);
  const keep = () => {
    if (typed !== value) setProblem(onKeep(typed) ?? null);
  };
  return (
    <Form.Group controlId={id} className={className}>
      <Form.Label>{label}</Form.Label>
      <Form.Control
        size="sm"
        value={typed}
        placeholder={placeholder}
        maxLength={2_000}
        {...invalid(`${id}-problem`, problem !== null)}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={keep}
        onKeyDown={(event) => event.key === 'Enter' && (event.preventDefault(), keep())}
      />
      <ProblemNote problem={problem} id={`${id}-problem`} />
    </Form.Group>
  );
}
