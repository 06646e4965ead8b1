'use client';
import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { HOUSE_ID, type HouseLine } from '@/core/house';
import { LIMITS } from '@/core/limits';
import { HOUSE } from '@/core/words';
import { readDetail, shownValue } from '@/core/record';
import { freshId } from '@/ui/record/fresh-id';
import { invalid, ProblemNote } from '@/ui/studio/problem-note';

const KINDS = ['organisation', 'address', 'link', 'phone', 'email', 'own'] as const;
type Kind = (typeof KINDS)[number];

/** The lines that stand on every card. */
export function HouseLines({
  lines,
  country,
  onLines,
}: {
  lines: HouseLine[];
  country: string;
  onLines: (lines: HouseLine[]) => void;
}) {
  const [kind, setKind] = useState<Kind>('organisation');
  const [label, setLabel] = useState('');
  const [value, setValue] = useState('');
  const [problem, setProblem] = useState<Problem | null>(null);
  function add() {
    const id = `${HOUSE_ID}${freshId()}`;
    const read = readDetail(kind, value, { id, country, uses: [], label });
    if (!read.ok) return setProblem(read.problem);
    setProblem(null);
    setValue('');
    setLabel('');
    onLines([...lines, { id, label, detail: read.value, page: true, file: true }]);
  }
  const set = (id: string, change: Partial<HouseLine>) =>
    onLines(lines.map((line) => (line.id === id ? { ...line, ...change } : line)));
  return (
    <>
      <p className="note">{HOUSE.linesText}</p>
      <ul className="house-lines">
        {lines.map((line) => (
          <li key={line.id}>
            <span>
              {line.label && <small>{line.label} </small>}
              {shownValue(line.detail)}
            </span>
            <Form.Check
              id={`${line.id}-page`}
              label={HOUSE.onPage}
              checked={line.page}
              onChange={({ target }) => set(line.id, { page: target.checked })}
            />
            <Form.Check
              id={`${line.id}-file`}
              label={HOUSE.onFile}
              checked={line.file}
              onChange={({ target }) => set(line.id, { file: target.checked })}
            />
            <button
              type="button"
              className="plain"
              aria-label={HOUSE.removeLine(line.label || shownValue(line.detail))}
              onClick={() => onLines(lines.filter(({ id }) => id !== line.id))}
            >
              {HOUSE.takeAway}
            </button>
          </li>
        ))}
      </ul>
      {lines.length < LIMITS.houseLines && (
        <div className="house-line-new">
          <Form.Select
            size="sm"
            aria-label={HOUSE.lineKind}
            value={kind}
            onChange={({ target }) => setKind(target.value as Kind)}
          >
            {KINDS.map((each) => (
              <option key={each} value={each}>
                {HOUSE.lineKinds[each]}
              </option>
            ))}
          </Form.Select>
          <Form.Control
            size="sm"
            aria-label={HOUSE.lineLabel}
            placeholder={HOUSE.lineLabel}
            value={label}
            maxLength={LIMITS.label}
            onChange={({ target }) => setLabel(target.value)}
          />
          <Form.Control
            size="sm"
            aria-label={HOUSE.lineValue}
            placeholder={HOUSE.lineValue}
            value={value}
            maxLength={LIMITS.text}
            {...invalid('house-line-problem', problem !== null)}
            onChange={({ target }) => setValue(target.value)}
            onKeyDown={(event) => {
              if (event.key !== 'Enter') return;
              event.preventDefault();
              add();
            }}
          />
          <Button size="sm" variant="quiet" disabled={value.trim() === ''} onClick={add}>
            {HOUSE.addLine}
          </Button>
          <ProblemNote problem={problem} id="house-line-problem" />
        </div>
      )}
    </>
  );
}
