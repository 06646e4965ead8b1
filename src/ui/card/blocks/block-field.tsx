'use client';
import { useEffect, useRef, useState } from 'react';
import { Form } from 'react-bootstrap';
import { useStable } from '@/ui/studio/use-stable';
import { invalid } from '@/ui/studio/problem-note';

/** What is typed is kept once the hand rests this long, or when the field is left. */
const REST_MS = 400;

/** A labelled field of a block. `wrong` says what is wrong with a text that is then not kept. */
export function BlockField({
  id,
  label,
  value,
  hint,
  long = false,
  most,
  wrong,
  onKeep,
}: {
  id: string;
  label: string;
  value: string;
  hint?: string;
  long?: boolean;
  most: number;
  wrong?: (text: string) => string | null;
  onKeep: (text: string) => void;
}) {
  const [typed, setTyped] = useState(value);
  const [known, setKnown] = useState(value);
  // Somebody else's text, or an undone one.
  if (value !== known) {
    setKnown(value);
    setTyped(value);
  }
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const finding = wrong?.(typed) ?? null;
  const keep = useStable((text: string) => {
    clearTimeout(timer.current);
    if (text === value || wrong?.(text)) return;
    setKnown(text);
    onKeep(text);
  });
  useEffect(() => () => clearTimeout(timer.current), []);
  return (
    <Form.Group controlId={id} className={`block-field${long ? ' long' : ''}`}>
      <Form.Label>{label}</Form.Label>
      <Form.Control
        size="sm"
        value={typed}
        placeholder={hint}
        maxLength={most}
        {...invalid(`${id}-wrong`, finding !== null)}
        {...(long ? { as: 'textarea' as const, rows: 3 } : {})}
        onChange={({ target }) => {
          setTyped(target.value);
          clearTimeout(timer.current);
          timer.current = setTimeout(() => keep(target.value), REST_MS);
        }}
        onBlur={() => keep(typed)}
      />
      {finding && (
        <p className="problem" id={`${id}-wrong`}>
          {finding}
        </p>
      )}
    </Form.Group>
  );
}
