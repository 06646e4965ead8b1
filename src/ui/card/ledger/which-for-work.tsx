'use client';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { detailOf, editTicks, goesOut, PAGE_AND_FILE, type Edit, type Line } from '@/core/card';
import { CARD } from '@/core/words';
import { defaultLabel, shownValue, type Detail, type PersonRecord } from '@/core/record';
import { call } from '@/ui/studio/call';

type Reach = 'phone' | 'email';

const rings = (detail: Detail): boolean =>
  detail.kind !== 'phone' || !detail.uses.some((use) => use === 'fax' || use === 'pager');

/** Ways to reach the person that a card could show while it shows none of their kind. */
export function waysLeft(lines: Line[], record: PersonRecord, kind: Reach): Detail[] {
  const ways = lines.flatMap((line) => {
    const detail = detailOf(line, record);
    return detail?.kind === kind && rings(detail) ? [{ line, detail }] : [];
  });
  return ways.some(({ line }) => goesOut(line)) ? [] : ways.map(({ detail }) => detail);
}

type Props = {
  recordId: string;
  lines: Line[];
  record: PersonRecord;
  onEdit: (edits: Edit[]) => void;
  /** The record was changed: its mark is taken in. */
  onMarked: () => void;
};

/** A new card that shows no phone, or no mail, since none is marked as for work: one question each, with what there is. */
export function WhichForWork({ recordId, lines, record, onEdit, onMarked }: Props) {
  const [none, setNone] = useState<readonly Reach[]>([]);
  return (['phone', 'email'] as const).map((kind) => {
    const ways = none.includes(kind) ? [] : waysLeft(lines, record, kind);
    if (ways.length === 0) return null;
    const show = async (id: string) => {
      const line = lines.find(({ detail }) => detail === id);
      if (line) onEdit(editTicks(line, PAGE_AND_FILE));
      const isOnRecord = record.details.some((detail) => detail.id === id);
      if (isOnRecord && (await call(`/api/records/${recordId}/for-work`, { json: { detail: id } })).ok) onMarked();
    };
    return (
      <section className="banner which" key={kind} aria-labelledby={`which-${kind}`}>
        <p>
          <b id={`which-${kind}`}>{CARD.which[kind]}</b> {CARD.whichNote}
        </p>
        {ways.map((way) => (
          <Button key={way.id} variant="quiet" onClick={() => void show(way.id)}>
            <span className="mono">{shownValue(way)}</span> <small>{defaultLabel(way)}</small>
          </Button>
        ))}
        <Button variant="link" onClick={() => setNone([...none, kind])}>
          {CARD.whichNone}
        </Button>
      </section>
    );
  });
}
