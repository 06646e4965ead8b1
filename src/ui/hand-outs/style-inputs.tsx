'use client';
import { Form } from 'react-bootstrap';

/** One of a few ways to draw a part, as words beside each other. */
export function Choice<T extends string>({
  word,
  of,
  words,
  value,
  onValue,
  hidden = false,
}: {
  word: string;
  of: readonly T[];
  words: Record<T, string>;
  value: T;
  onValue: (value: T) => void;
  hidden?: boolean;
}) {
  return (
    <div className="style-choice">
      {!hidden && <span>{word}</span>}
      <div className="choice" role="group" aria-label={word}>
        {of.map((each) => (
          <button key={each} type="button" aria-pressed={each === value} onClick={() => onValue(each)}>
            {words[each]}
          </button>
        ))}
      </div>
    </div>
  );
}

/** A share or a size, in a unit. */
export function Slider({
  word,
  value,
  least,
  most,
  unit,
  onValue,
}: {
  word: string;
  value: number;
  least: number;
  most: number;
  unit: string;
  onValue: (value: number) => void;
}) {
  return (
    <div className="style-slider">
      <Form.Range
        aria-label={word}
        min={least}
        max={most}
        value={value}
        onChange={({ target }) => onValue(Number(target.value))}
      />
      <span className="mono">
        {value} {unit}
      </span>
    </div>
  );
}
