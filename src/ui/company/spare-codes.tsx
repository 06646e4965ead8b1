'use client';
import { useState, type FormEvent } from 'react';
import { Button, Form } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { csvOf } from '@/core/sheet';
import { shownLink } from '@/core/record';
import type { ShownSpares } from '@/core/shown';
import { SPARES } from '@/core/words';
import { call } from '@/ui/studio/call';
import { shortDayIn } from '@/ui/studio/instant';
import { ProblemNote } from '@/ui/studio/problem-note';
import { saveText } from '@/ui/studio/save-text';
import { GiveSpare } from './give-spare';

/** Codes that point at no card yet, and a form to make more. */
export function SpareCodes({ opened, zone }: { opened: ShownSpares; zone: string }) {
  const [{ codes }, setShown] = useState(opened);
  const [count, setCount] = useState('50');
  const [placement, setPlacement] = useState('');
  const [channel, setChannel] = useState<'code' | 'tag'>('code');
  const [problem, setProblem] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);
  async function make(event: FormEvent) {
    event.preventDefault();
    setBusy(true);
    const answer = await call<ShownSpares>('/api/spare-codes', { json: { count: Number(count), placement, channel } });
    setBusy(false);
    setProblem(answer.ok ? null : answer.problem);
    if (answer.ok) setShown(answer.value);
  }
  function download() {
    const { column, channels } = SPARES;
    const rows = codes.map(({ code, number, channel, link, placement: of }) => [
      ...[String(number), channels[channel], code, link, of],
    ]);
    const head = [column.number, column.channel, column.code, column.link, column.placement];
    saveText('codes.csv', 'text/csv', csvOf([head, ...rows]));
  }
  // The number or code that was typed waits no longer.
  const take = (typed: string) =>
    setShown((shown) => ({
      ...shown,
      codes: shown.codes.filter(
        ({ code, number }) => typed.replace(/^\D*/, '') !== String(number) && !typed.toUpperCase().endsWith(code),
      ),
    }));
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
          <Form.Group controlId="spare-channel">
            <Form.Label>{SPARES.channel}</Form.Label>
            <Form.Select value={channel} onChange={({ target }) => setChannel(target.value as 'code' | 'tag')}>
              {(['code', 'tag'] as const).map((each) => (
                <option key={each} value={each}>
                  {SPARES.channels[each]}
                </option>
              ))}
            </Form.Select>
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
          <GiveSpare onGiven={take} />
          <Button variant="quiet" onClick={download}>
            {SPARES.download}
          </Button>
          <div className="wide">
            <table className="rows">
              <thead>
                <tr>
                  <th className="num before">{SPARES.column.number}</th>
                  <th>{SPARES.column.channel}</th>
                  <th>{SPARES.column.code}</th>
                  <th>{SPARES.column.link}</th>
                  <th>{SPARES.column.placement}</th>
                  <th>{SPARES.column.made}</th>
                </tr>
              </thead>
              <tbody>
                {codes.slice(0, SHOWN).map(({ code, number, channel: as, link, placement: of, made }) => (
                  <tr key={code}>
                    <td className="num before">{number}</td>
                    <td>{SPARES.channels[as]}</td>
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
