'use client';
import { useEffect, useId, useState } from 'react';
import { Form } from 'react-bootstrap';
import { CARDS } from '@/core/words';
import { call } from '@/ui/studio/call';

type Found = { kind: string; name: string; about: string; href: string };
const QUIET_MS = 150;

/** Chooses one of the organisation's cards by typing a name or an audience. */
export function CardPicker({
  word,
  hint,
  except,
  chosen,
  onChoose,
}: {
  word: string;
  hint: string;
  except: string | null;
  chosen: string | null;
  onChoose: (id: string | null) => void;
}) {
  const field = useId();
  const [typed, setTyped] = useState('');
  const [found, setFound] = useState<Found[]>([]);
  const [name, setName] = useState(chosen ? CARDS.chosenCard : '');
  useEffect(() => {
    let current = true;
    const timer = setTimeout(async () => {
      if (!typed.trim()) return setFound([]);
      const answer = await call<{ found: Found[] }>(`/api/go-to?q=${encodeURIComponent(typed)}`);
      if (current && answer.ok)
        setFound(answer.value.found.filter(({ kind, href }) => kind === 'card' && !(except && href.endsWith(except))));
    }, QUIET_MS);
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [typed, except]);
  const choose = (card: Found) => {
    setName(card.name);
    onChoose(card.href.split('/').at(-1)!);
  };
  return (
    <Form.Group controlId={field}>
      <Form.Label>{word}</Form.Label>
      {chosen ? (
        <p>
          {name}{' '}
          <button type="button" className="plain" onClick={() => onChoose(null)}>
            {CARDS.noOther}
          </button>
        </p>
      ) : (
        <>
          <Form.Control
            value={typed}
            placeholder={hint}
            autoComplete="off"
            onChange={(event) => setTyped(event.target.value)}
            onKeyDown={(event) => {
              if (event.key !== 'Enter') return;
              event.preventDefault();
              if (found[0]) choose(found[0]);
            }}
          />
          <ul className="picker">
            {found.map((each) => (
              <li key={each.href}>
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
