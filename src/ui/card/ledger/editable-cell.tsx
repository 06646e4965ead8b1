'use client';
import { useRef, useState } from 'react';
import type { Problem } from '@/core/errors';
import { FRAME } from '@/core/words';
import { ProblemNote } from '@/ui/studio/problem-note';

type Props = {
  row: number;
  column: number;
  value: string;
  name: string;
  empty?: string;
  /** What stands there, where it is not what is edited: a part of it. */
  shown?: string;
  /** What was being typed when the page was left: the cell opens with it. */
  left?: string | null;
  /** Hears every key stroke, and null when the cell is left. */
  onTyping?: (typed: string | null) => void;
  multiline?: boolean;
  /** Takes what was typed; answers with a problem to keep the cell open, the typed text in it. */
  onCommit: (typed: string) => Problem | void;
};

/** A cell edited in place: Enter opens and keeps, Escape leaves it as it was. */
export function EditableCell({
  row,
  column,
  value,
  name,
  empty,
  shown = value,
  left = null,
  multiline = false,
  onTyping,
  onCommit,
}: Props) {
  const [typed, setText] = useState<string | null>(left);
  // What the browser kept is known only a moment after the first drawing.
  const [found, setFound] = useState(left);
  if (left !== found) {
    setFound(left);
    if (left !== null && typed === null) setText(left);
  }
  const setTyped = (text: string | null) => {
    setText(text);
    onTyping?.(text);
  };
  const [problem, setProblem] = useState<Problem | null>(null);
  const cell = useRef<HTMLButtonElement>(null);

  function leave(keep: boolean, backToCell: boolean) {
    const wrong = keep && typed !== null && typed !== value ? onCommit(typed) : undefined;
    if (wrong) return setProblem(wrong);
    setProblem(null);
    setTyped(null);
    if (backToCell) requestAnimationFrame(() => cell.current?.focus());
  }

  if (typed === null) {
    return (
      <button
        type="button"
        ref={cell}
        tabIndex={-1}
        className={`cell${shown ? '' : ' empty'}`}
        data-row={row}
        data-column={column}
        aria-label={`${name}: ${shown || empty || FRAME.empty}`}
        onClick={() => setTyped(value)}
      >
        {shown || empty || <span className="visually-hidden">{FRAME.empty}</span>}
      </button>
    );
  }
  const Field = multiline ? 'textarea' : 'input';
  return (
    <>
      <Field
        className="cell-field"
        data-row={row}
        data-column={column}
        aria-label={name}
        aria-invalid={problem !== null}
        aria-describedby={problem ? `cell-${row}-${column}` : undefined}
        autoFocus
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
        onFocus={(event) => left === null && event.target.select()}
        onBlur={() => leave(true, false)}
        onKeyDown={(event) => {
          if (event.key === 'Enter' && !(multiline && event.shiftKey)) {
            event.preventDefault();
            leave(true, true);
          }
          if (event.key === 'Escape') leave(false, true);
        }}
      />
      <ProblemNote problem={problem} id={`cell-${row}-${column}`} />
    </>
  );
}
