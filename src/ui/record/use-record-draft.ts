'use client';
import { useState } from 'react';
import type { Problem } from '@/core/errors';
import type { PersonRecord } from '@/core/record';
import { call } from '@/ui/studio/call';

/** The record on screen: each change is saved at once over the version that was seen; a failed one stays on screen, unsaved. */
export function useRecordDraft(opened: { id: string; version: number; body: PersonRecord }) {
  const [body, setBody] = useState(opened.body);
  const [past, setPast] = useState<PersonRecord[]>([]);
  const [version, setVersion] = useState(opened.version);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [state, setState] = useState<'saving' | 'saved' | 'notSaved' | null>(null);

  async function send(next: PersonRecord, baseVersion: number) {
    setState('saving');
    const answer = await call<{ version: number }>(`/api/records/${opened.id}`, {
      method: 'PUT',
      json: { baseVersion, body: next },
    });
    setProblem(answer.ok ? null : answer.problem);
    setState(answer.ok ? 'saved' : 'notSaved');
    if (answer.ok) setVersion(answer.value.version);
  }

  return {
    body,
    problem,
    state,
    canUndo: past.length > 0,
    change: (next: PersonRecord) => {
      setPast([...past, body].slice(-100));
      setBody(next);
      void send(next, version);
    },
    undo: () => {
      const before = past.at(-1);
      if (!before) return;
      setPast(past.slice(0, -1));
      setBody(before);
      void send(before, version);
    },
    retry: () => void send(body, version),
    /** After a conflict: puts what is on screen over the version that somebody else made. */
    putMineOver: (theirs: number) => void send(body, theirs),
  };
}
