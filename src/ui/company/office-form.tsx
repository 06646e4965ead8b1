'use client';
import { useState, type FormEvent } from 'react';
import { Button, Form } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import {
  addressLine,
  addressOf,
  OFFICE_SLOTS,
  officeLine,
  readOfficeLine,
  type HouseLine,
  type Office,
  type OfficeSlot,
} from '@/core/house';
import { LIMITS } from '@/core/limits';
import { shownValue } from '@/core/record';
import { OFFICES } from '@/core/words';
import { AddressFields } from '@/ui/record/address-fields';
import { call } from '@/ui/studio/call';
import { invalid, ProblemNote } from '@/ui/studio/problem-note';

type Props = {
  /** The office that is changed; null where one is made. */
  office: Office | null;
  copies: number;
  country: string;
  zone: string;
  onSaved: (saved: { id: string; cards: number }) => void;
  onCancel: () => void;
};
const TYPED = OFFICE_SLOTS.filter((slot) => slot !== 'address');

/** An office’s name and lines, each with where it goes. What cannot be read is told beside its field; nothing is lost. */
export function OfficeForm({ office, copies, country, zone, onSaved, onCancel }: Props) {
  const [name, setName] = useState(office?.name ?? '');
  const [lines, setLines] = useState<HouseLine[]>(office?.lines ?? []);
  const lineOf = (slot: OfficeSlot) => lines.find(({ id }) => id === officeLine(slot));
  const [texts, setTexts] = useState(() =>
    Object.fromEntries(
      TYPED.map((slot) => {
        const line = lineOf(slot);
        return [slot, line ? shownValue(line.detail) : ''];
      }),
    ),
  );
  const [problems, setProblems] = useState<Partial<Record<OfficeSlot | 'form', Problem>>>({});
  const [busy, setBusy] = useState(false);
  const put = (all: readonly HouseLine[], slot: OfficeSlot, line: HouseLine | null) =>
    OFFICE_SLOTS.flatMap((each) => (each === slot ? line : all.find(({ id }) => id === officeLine(each))) ?? []);
  /** What was typed as a line of it, the line as it was where nothing was; a problem is kept beside its field. */
  function read(all: HouseLine[], slot: OfficeSlot): HouseLine[] | Problem {
    const before = all.find(({ id }) => id === officeLine(slot));
    if (before && texts[slot] === shownValue(before.detail)) return all;
    const line = readOfficeLine(slot, texts[slot] ?? '', { country, zone, before });
    return line.ok ? put(all, slot, line.value) : line.problem;
  }
  /** What is told of a field goes while it is mended, not when it is left: else what is pressed next would move away. */
  function type(slot: OfficeSlot, text: string) {
    const { [slot]: _, ...others } = problems;
    setTexts({ ...texts, [slot]: text });
    setProblems(others);
  }
  function leave(slot: OfficeSlot) {
    const next = read(lines, slot);
    const { [slot]: _, ...others } = problems;
    setProblems('code' in next ? { ...others, [slot]: next } : others);
    if (!('code' in next)) setLines(next);
  }
  async function save(event: FormEvent) {
    event.preventDefault();
    let next = lines;
    const found: typeof problems = {};
    for (const slot of TYPED) {
      const each = read(next, slot);
      if ('code' in each) found[slot] = each;
      else next = each;
    }
    setProblems(found);
    if (Object.keys(found).length > 0) return;
    setBusy(true);
    const answer = await call<{ id: string; cards: number }>(office ? `/api/offices/${office.id}` : '/api/offices', {
      method: office ? 'PUT' : 'POST',
      json: { base: office?.number ?? 0, name, lines: next },
    });
    setBusy(false);
    if (answer.ok) onSaved(answer.value);
    else setProblems({ form: answer.problem });
  }
  const places = (slot: OfficeSlot) => {
    const line = lineOf(slot);
    return (
      <span className="places" role="group" aria-label={OFFICES.goes(OFFICES.slot[slot])}>
        {(['page', 'file'] as const).map((place) => (
          <Form.Check
            key={place}
            id={`${officeLine(slot)}-${place}`}
            label={place === 'page' ? OFFICES.onPage : OFFICES.onFile}
            checked={line?.[place] ?? false}
            disabled={!line}
            onChange={({ target }) => line && setLines(put(lines, slot, { ...line, [place]: target.checked }))}
          />
        ))}
        <Form.Control
          id={`${officeLine(slot)}-label`}
          size="sm"
          className="label-of"
          aria-label={OFFICES.labelOf(OFFICES.slot[slot])}
          placeholder={OFFICES.label}
          value={line?.label ?? ''}
          maxLength={LIMITS.label}
          disabled={!line}
          onChange={({ target }) => line && setLines(put(lines, slot, { ...line, label: target.value }))}
        />
      </span>
    );
  };
  return (
    <Form className="office-form" onSubmit={(event) => void save(event)} noValidate>
      <Form.Group controlId="office-name">
        <Form.Label>{OFFICES.name}</Form.Label>
        <Form.Control
          value={name}
          maxLength={80}
          autoFocus
          placeholder={OFFICES.nameHint}
          onChange={({ target }) => setName(target.value)}
        />
      </Form.Group>
      <fieldset>
        <legend>
          {OFFICES.slot.address} {places('address')}
        </legend>
        <AddressFields
          address={addressOf(lineOf('address'))}
          onChange={(address) => setLines(put(lines, 'address', addressLine(address, lineOf('address'))))}
        />
      </fieldset>
      {TYPED.map((slot) => (
        <Form.Group key={slot} controlId={`office-${slot}`}>
          <div className="label-line">
            <Form.Label>{OFFICES.slot[slot]}</Form.Label>
            {places(slot)}
          </div>
          <Form.Control
            {...(slot === 'phone' ? { inputMode: 'tel' as const } : { as: 'textarea' as const, rows: 2 })}
            value={texts[slot] ?? ''}
            maxLength={2_000}
            placeholder={OFFICES.hint[slot]}
            {...invalid(`office-${slot}-problem`, problems[slot] !== undefined)}
            onChange={({ target }) => type(slot, target.value)}
            onBlur={() => leave(slot)}
          />
          <ProblemNote problem={problems[slot] ?? null} id={`office-${slot}-problem`} />
        </Form.Group>
      ))}
      {copies > 0 && <p className="attention">{OFFICES.copies(copies)}</p>}
      <ProblemNote problem={problems.form ?? null} />
      <div className="acts">
        <Button type="submit" disabled={busy || name.trim() === ''}>
          {OFFICES.save}
        </Button>
        <Button variant="quiet" onClick={onCancel}>
          {OFFICES.cancel}
        </Button>
      </div>
    </Form>
  );
}
