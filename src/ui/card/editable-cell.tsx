'use client';
import { useRef, useState } from 'react';
import type { Problem } from '@/core/errors';
import { FRAME } from '@/core/messages';
import { ProblemNote } from '@/ui/studio/problem-note';

type Props = {
  row: number;
  column: number;
  value: string;
  name: string;
  empty?: string;
  multiline?: boolean;
  /** Takes what was typed; answers with a problem to keep the cell open, the typed text in it. */
  onCommit: (typed: string) => Problem | void;
};

/** A cell edited in place: Enter opens and keeps, Escape leaves it as it was. */
export function EditableCell({ row, column, value, name, empty, multiline = false, onCommit }: Props) {
  const [typed, setTyped] = useState<string | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const cell = useRef<HTMLButtonElement>(null);

  function leave(keep: boolean, backToCell: boolean) {
    const found = keep && typed !== null && typed !== value ? onCommit(typed) : undefined;
    if (found) return setProblem(found);
    setProblem(null);
    setTyped(null);
    if (backToCell) requestAnimationFrame(() => cell.current?.focus());
  }

  if (typed === null) {
    return (
      <button
        type="button"
        ref={cell}
        className={`cell${value ? '' : ' empty'}`}
        data-row={row}
        data-column={column}
        aria-label={`${name}: ${value || empty || FRAME.empty}`}
        onClick={() => setTyped(value)}
      >
        {value || empty}
      </button>
    );
  }
  const Field = multiline ? 'textarea' : 'input';
  return (
    <>
      <Field
        className="cell-field"
        aria-label={name}
        aria-invalid={problem !== null}
        aria-describedby={problem ? `cell-${row}-${column}` : undefined}
        autoFocus
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
        onFocus={(event) => event.target.select()}
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
