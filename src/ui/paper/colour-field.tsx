'use client';
import { useEffect, useRef, useState } from 'react';
import { Form } from 'react-bootstrap';

/** A colour is taken over once nobody has moved it for so long, in milliseconds: each change prints and proves a file. */
const SETTLED_MS = 400;

/** A colour, of some that are offered or any other. */
export function ColourField({
  id,
  label,
  value,
  offered,
  onValue,
}: {
  id: string;
  label: string;
  value: string;
  offered: string[];
  onValue: (value: string) => void;
}) {
  const [shown, setShown] = useState(value.toLowerCase());
  const settling = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(() => () => clearTimeout(settling.current), []);
  return (
    <Form.Group controlId={id}>
      <Form.Label>{label}</Form.Label>
      <Form.Control
        type="color"
        list={`${id}-offered`}
        value={shown}
        onChange={({ target }) => {
          const next = target.value;
          setShown(next);
          clearTimeout(settling.current);
          settling.current = setTimeout(() => onValue(next.toUpperCase()), SETTLED_MS);
        }}
      />
      <datalist id={`${id}-offered`}>
        {offered.map((colour) => (
          <option key={colour} value={colour.toLowerCase()} />
        ))}
      </datalist>
    </Form.Group>
  );
}
