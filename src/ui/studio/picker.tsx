'use client';
import { useEffect, useId, useState } from 'react';
import { Form } from 'react-bootstrap';
import { FRAME } from '@/core/words';

export type Choice = { id: string; name: string };
const QUIET_MS = 150;

type Props = {
  word: string;
  /** The word is said to those who do not see where it stands. */
  quiet?: boolean;
  autoFocus?: boolean;
  hint: string;
  chosen: Choice | null;
  /** What is known under what was typed, a few at most; the same function at every drawing. */
  search: (typed: string) => Promise<Choice[]>;
  onChoose: (choice: Choice | null) => void;
  /** Ties a problem to the field. */
  wrong?: object;
};

/** Chooses one of many by typing part of its name: however many there are, a few come. Enter takes the first. */
export function Picker({ word, quiet = false, autoFocus = false, hint, chosen, search, onChoose, wrong = {} }: Props) {
  const field = useId();
  const [typed, setTyped] = useState('');
  const [found, setFound] = useState<Choice[]>([]);
  useEffect(() => {
    let current = true;
    const timer = setTimeout(async () => {
      const choices = typed.trim() ? await search(typed) : [];
      if (current) setFound(choices);
    }, QUIET_MS);
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [typed, search]);
  const choose = (choice: Choice) => {
    setTyped('');
    onChoose(choice);
  };
  return (
    <Form.Group controlId={field}>
      <Form.Label visuallyHidden={quiet}>{word}</Form.Label>
      {chosen ? (
        <p className="picked">
          {chosen.name}{' '}
          <button type="button" className="plain" onClick={() => onChoose(null)}>
            {FRAME.chooseAnother}
            <span className="visually-hidden"> {word}</span>
          </button>
        </p>
      ) : (
        <>
          <Form.Control
            value={typed}
            placeholder={hint}
            autoComplete="off"
            autoFocus={autoFocus}
            {...wrong}
            onChange={(event) => setTyped(event.target.value)}
            onKeyDown={(event) => {
              if (event.key !== 'Enter') return;
              event.preventDefault();
              if (found[0]) choose(found[0]);
            }}
          />
          <ul className="picker">
            {found.map((each) => (
              <li key={each.id}>
                <button type="button" className="plain" onClick={() => choose(each)}>
                  {each.name}
                </button>
              </li>
            ))}
          </ul>
        </>
      )}
    </Form.Group>
  );
}
