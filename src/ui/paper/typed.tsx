'use client';
import { useState } from 'react';
import { Form } from 'react-bootstrap';

/** A field that is taken over once it is left or confirmed: each change prints and proves a file. */
export function Typed({
  id,
  label,
  value,
  most = 12,
  hint,
  note,
  onValue,
}: {
  id: string;
  label: string;
  value: string;
  most?: number;
  hint?: string;
  note?: string;
  onValue: (value: string) => void;
}) {
  const [typed, setTyped] = useState(value);
  const take = () => typed !== value && onValue(typed);
  return (
    <Form.Group controlId={id}>
      <Form.Label>{label}</Form.Label>
      <Form.Control
        value={typed}
        maxLength={most}
        placeholder={hint}
        aria-describedby={note ? `${id}-note` : undefined}
        onChange={({ target }) => setTyped(target.value)}
        onBlur={take}
        onKeyDown={({ key }) => key === 'Enter' && take()}
      />
      {note && (
        <p className="note" id={`${id}-note`}>
          {note}
        </p>
      )}
    </Form.Group>
  );
}
