'use client';
import { useState, type FormEvent } from 'react';
import { Button, Form } from 'react-bootstrap';
import type { Field } from '@/core/roster';
import { ROSTER } from '@/core/words';
import type { RowActs } from './roster-row';

/** Corrects one column in all rows that are shown: the whole cell, or some letters in it. */
export function MendMany({ fields, rows, onMend }: { fields: Field[]; rows: number[] } & Pick<RowActs, 'onMend'>) {
  const [field, setField] = useState<Field | ''>('');
  const [find, setFind] = useState('');
  const [text, setText] = useState('');
  const [busy, setBusy] = useState(false);
  async function mend(event: FormEvent) {
    event.preventDefault();
    if (!field) return;
    setBusy(true);
    const problem = await onMend(rows, field, find || null, text);
    setBusy(false);
    if (!problem) setText('');
  }
  return (
    <details className="mend-many">
      <summary>{ROSTER.mendMany}</summary>
      <Form onSubmit={(event) => void mend(event)}>
        <Form.Select
          size="sm"
          aria-label={ROSTER.mendField}
          value={field}
          onChange={({ target }) => setField(target.value as Field)}
        >
          <option value="">{ROSTER.mendField}</option>
          {fields.map((each) => (
            <option key={each} value={each}>
              {ROSTER.fields[each]}
            </option>
          ))}
        </Form.Select>
        <Form.Control
          size="sm"
          aria-label={ROSTER.mendFind}
          placeholder={`${ROSTER.mendFind} (${ROSTER.mendFindNote.toLowerCase()})`}
          value={find}
          onChange={({ target }) => setFind(target.value)}
        />
        <Form.Control
          size="sm"
          aria-label={ROSTER.mendText}
          placeholder={ROSTER.mendText}
          value={text}
          onChange={({ target }) => setText(target.value)}
        />
        <Button size="sm" variant="quiet" type="submit" disabled={busy || !field || rows.length === 0}>
          {ROSTER.mendRows(rows.length)}
        </Button>
      </Form>
    </details>
  );
}
