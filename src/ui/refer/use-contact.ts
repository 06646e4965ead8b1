'use client';
import { useState } from 'react';
import type { Problem } from '@/core/errors';
import type { Detail } from '@/core/record';
import type { ShownContact } from '@/core/shown';
import { REFER } from '@/core/words';
import { call } from '@/ui/studio/call';
import { createKeeper } from './keeper';

type Change = { name: string; details: Detail[]; ticked: string[] };

const tickedOf = ({ lines }: ShownContact) => lines.filter((line) => line.ticked).map((line) => line.id);

/** A contact as it is edited: what is changed shows at once, and is kept one save after the other. */
export function useContact(opened: ShownContact) {
  const [contact, setContact] = useState(opened);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [told, setTold] = useState('');
  const [keeper] = useState(() =>
    createKeeper<ShownContact, Change>(
      opened,
      (kept, change) => {
        const whole = { name: kept.name, details: kept.record.details, ticked: tickedOf(kept), ...change };
        const json = { baseVersion: kept.version, ...whole };
        return call<ShownContact>(`/api/refer/${opened.id}`, { method: 'PUT', json });
      },
      ({ kept, problem: found, waiting }) => {
        setProblem(found);
        setTold(found ? '' : REFER.saved);
        // What could not be kept is shown no longer.
        if (!waiting) setContact(kept);
      },
    ),
  );
  const tick = (of: string, on: boolean) => {
    const lines = contact.lines.map((line) => (line.id === of ? { ...line, ticked: on } : line));
    setContact({ ...contact, lines });
    keeper.save({ ticked: tickedOf({ ...contact, lines }) });
  };
  const refresh = async () => {
    const answer = await call<ShownContact>(`/api/refer/${opened.id}`);
    if (answer.ok && keeper.take(answer.value)) setContact(answer.value);
  };
  return { contact, problem, setProblem, told, save: keeper.save, tick, refresh };
}
