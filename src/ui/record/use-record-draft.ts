'use client';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { Problem } from '@/core/errors';
import type { PersonRecord } from '@/core/record';
import { call } from '@/ui/studio/call';

/** While the database or the connection is away, saving is tried again this often. */
const RETRY_MS = 3_000;
const LONGEST_HISTORY = 200;

type State = {
  body: PersonRecord;
  saved: PersonRecord;
  past: PersonRecord[];
  future: PersonRecord[];
  version: number;
  saving: boolean;
  problem: Problem | null;
  everSaved: boolean;
};

/**
 * The record on screen: each change is saved by itself over the version that was seen, one after the other; what could not be saved
 * stays on screen and is tried again as soon as the server answers.
 */
export function useRecordDraft(opened: { id: string; version: number; body: PersonRecord }) {
  const [state, setState] = useState<State>({
    body: opened.body,
    saved: opened.body,
    past: [],
    future: [],
    version: opened.version,
    saving: false,
    problem: null,
    everSaved: false,
  });
  const latest = useRef(state);
  useEffect(() => {
    latest.current = state;
  });

  const save = useCallback(async () => {
    const { body, saved, version, saving } = latest.current;
    if (saving || body === saved) return;
    setState((now) => ({ ...now, saving: true }));
    const answer = await call<{ version: number }>(`/api/records/${opened.id}`, {
      method: 'PUT',
      json: { baseVersion: version, body },
    });
    setState((now) =>
      answer.ok
        ? { ...now, saving: false, saved: body, version: answer.value.version, problem: null, everSaved: true }
        : { ...now, saving: false, problem: answer.problem },
    );
  }, [opened.id]);

  const { body, saved, saving, problem } = state;
  const away = problem?.code === 'OFFLINE' || problem?.code === 'DATABASE_UNAVAILABLE';
  useEffect(() => {
    if (body === saved || saving || (problem && !away)) return;
    const timer = setTimeout(() => void save(), away ? RETRY_MS : 0);
    return () => clearTimeout(timer);
  }, [body, saved, saving, problem, away, save]);
  useEffect(() => {
    if (body === saved) return;
    const warn = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener('beforeunload', warn);
    return () => window.removeEventListener('beforeunload', warn);
  }, [body, saved]);

  return {
    body,
    problem,
    state:
      body !== saved
        ? problem
          ? ('notSaved' as const)
          : ('saving' as const)
        : state.everSaved
          ? ('saved' as const)
          : null,
    version: state.version,
    canUndo: state.past.length > 0,
    canRedo: state.future.length > 0,
    change: (next: PersonRecord) =>
      setState((now) => ({
        ...now,
        body: next,
        past: [...now.past, now.body].slice(-LONGEST_HISTORY),
        future: [],
        problem: null,
      })),
    undo: () =>
      setState((now) => {
        const before = now.past.at(-1);
        return before
          ? { ...now, body: before, past: now.past.slice(0, -1), future: [now.body, ...now.future], problem: null }
          : now;
      }),
    redo: () =>
      setState((now) => {
        const [next, ...future] = now.future;
        return next ? { ...now, body: next, past: [...now.past, now.body], future, problem: null } : now;
      }),
    retry: () => setState((now) => ({ ...now, problem: null })),
    /** After a conflict: puts what is on screen over the version that somebody else made. */
    putMineOver: (theirs: number) => setState((now) => ({ ...now, version: theirs, problem: null })),
  };
}
