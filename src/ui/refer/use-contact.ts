'use client';
import { useRef, useState } from 'react';
import type { Problem } from '@/core/errors';
import type { Detail } from '@/core/record';
import type { ShownContact } from '@/core/shown';
import { REFER } from '@/core/words';
import { call } from '@/ui/studio/call';

export type ContactChange = Partial<{ name: string; details: Detail[]; ticked: ReadonlySet<string> }>;

/** A contact as it is edited: what is changed shows at once, and is kept one save after the other. */
export function useContact(opened: ShownContact) {
  const [contact, setContact] = useState(opened);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [told, setTold] = useState('');
  /** The contact as the server has it, and what waits to be kept. */
  const kept = useRef(opened);
  const waiting = useRef<ContactChange | null>(null);
  const busy = useRef(false);

  async function flush() {
    if (busy.current) return;
    busy.current = true;
    while (waiting.current) {
      const { name, details, ticked } = waiting.current;
      waiting.current = null;
      const { id, version, record, lines } = kept.current;
      const json = {
        baseVersion: version,
        name: name ?? kept.current.name,
        details: details ?? record.details,
        ticked: ticked ? [...ticked] : lines.filter((line) => line.ticked).map((line) => line.id),
      };
      const answer = await call<ShownContact>(`/api/refer/${id}`, { method: 'PUT', json });
      setProblem(answer.ok ? null : answer.problem);
      setTold(answer.ok ? REFER.saved : '');
      if (answer.ok) kept.current = answer.value;
      // What could not be kept is shown no longer.
      if (!waiting.current) setContact(kept.current);
    }
    busy.current = false;
  }
  const save = (change: ContactChange) => {
    waiting.current = { ...waiting.current, ...change };
    void flush();
  };
  const tick = (of: string, on: boolean) => {
    const lines = contact.lines.map((line) => (line.id === of ? { ...line, ticked: on } : line));
    setContact({ ...contact, lines });
    save({ ticked: new Set(lines.filter((line) => line.ticked).map((line) => line.id)) });
  };
  const refresh = async () => {
    const answer = await call<ShownContact>(`/api/refer/${opened.id}`);
    if (!answer.ok || waiting.current || busy.current) return;
    kept.current = answer.value;
    setContact(answer.value);
  };
  return { contact, problem, setProblem, told, save, tick, refresh };
}
