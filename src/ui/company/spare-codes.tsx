'use client';
import { useState, type FormEvent } from 'react';
import { Button, Form } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { shownLink } from '@/core/record';
import type { ShownSpares } from '@/core/shown';
import { SPARES } from '@/core/words';
import { call } from '@/ui/studio/call';
import { shortDayIn } from '@/ui/studio/instant';
import { ProblemNote } from '@/ui/studio/problem-note';
import { saveText } from '@/ui/studio/save-text';

/** A value of a table as programs read it (RFC 4180); what a spreadsheet would take for a formula is text. */
const cell = (text: string): string => `"${text.replace(/^(?=[=+\-@\t])/, "'").replaceAll('"', '""')}"`;

/** Codes that point at no card yet, and a form to make more. */
export function SpareCodes({ opened, zone }: { opened: ShownSpares; zone: string }) {
  const [{ codes }, setShown] = useState(opened);
  const [count, setCount] = useState('50');
  const [placement, setPlacement] = useState('');
  const [problem, setProblem] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);
  async function make(event: FormEvent) {
    event.preventDefault();
    setBusy(true);
    const answer = await call<ShownSpares>('/api/spare-codes', { json: { count: Number(count), placement } });
    setBusy(false);
    setProblem(answer.ok ? null : answer.problem);
    if (answer.ok) setShown(answer.value);
  }
  function download() {
    const { column } = SPARES;
    const rows = codes.map(({ code, link, placement: of }) => [code, link, of]);
    const table = [[column.code, column.link, column.placement], ...rows].map((row) => row.map(cell).join(','));
    saveText('codes.csv', 'text/csv', `${table.join('\r\n')}\r\n`);
  }
  const whole = /^\d+$/.test(count) && Number(count) >= 1 && Number(count) <= LIMITS.sparesAtOnce;
  return (
    <div className="company spare-codes">
      <p className="finding">{SPARES.text}</p>
      <Form className="inline" onSubmit={(event) => void make(event)} noValidate>
        <div className="pair">
          <Form.Group controlId="spare-count">
            <Form.Label>{SPARES.count}</Form.Label>
            <Form.Control
              type="number"
              min={1}
              max={LIMITS.sparesAtOnce}
              value={count}
              onChange={({ target }) => setCount(target.value)}
            />
          </Form.Group>
          <Form.Group controlId="spare-placement">
            <Form.Label>{SPARES.placement}</Form.Label>
            <Form.Control
              value={placement}
              maxLength={LIMITS.placement}
              placeholder={SPARES.placementHint}
              onChange={({ target }) => setPlacement(target.value)}
            />
          </Form.Group>
        </div>
        <ProblemNote problem={problem} />
        <Button type="submit" disabled={busy || !whole || !placement.trim()}>
          {SPARES.make}
        </Button>
      </Form>
      <h2 className="caps">{codes.length === 0 ? SPARES.none : SPARES.waiting(codes.length)}</h2>
      {codes.length > 0 && (
        <>
          <Button variant="quiet" onClick={download}>
            {SPARES.download}
          </Button>
          <div className="wide">
            <table className="rows">
              <thead>
                <tr>
                  <th>{SPARES.column.code}</th>
                  <th>{SPARES.column.link}</th>
                  <th>{SPARES.column.placement}</th>
                  <th>{SPARES.column.made}</th>
                </tr>
              </thead>
              <tbody>
                {codes.slice(0, SHOWN).map(({ code, link, placement: of, made }) => (
                  <tr key={code}>
                    <td className="mono">{code}</td>
                    <td className="mono">{shownLink(link)}</td>
                    <td>{of}</td>
                    <td>
                      <time dateTime={made}>{shortDayIn(zone, made)}</time>
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </>
      )}
    </div>
  );
}

/** So many stand in the list; the table that is downloaded has all. */
const SHOWN = 100;
