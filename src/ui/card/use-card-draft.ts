'use client';
import { useCallback, useEffect, useReducer, useRef } from 'react';
import type { Line } from '@/core/card';
import type { Problem } from '@/core/errors';
import type { Language } from '@/core/messages';
import { call } from '@/ui/studio/call';

/** What the table edits. Every edit is a new one of these, so that undo is going back. */
export type Draft = { lines: Line[]; audience: string; language: Language | null };

type State = {
  past: Draft[];
  now: Draft;
  future: Draft[];
  saved: Draft;
  version: number;
  saving: boolean;
  savedAt: number | null;
  problem: Problem | null;
};

type Act =
  | { do: 'edit'; draft: Draft }
  | { do: 'undo' | 'redo' | 'saving' }
  | { do: 'saved'; draft: Draft; version: number; at: number }
  | { do: 'failed'; problem: Problem }
  | { do: 'rebase'; version: number };

const LONGEST_HISTORY = 200;

function reduce(state: State, act: Act): State {
  switch (act.do) {
    case 'edit':
      return { ...state, past: [...state.past, state.now].slice(-LONGEST_HISTORY), now: act.draft, future: [] };
    case 'undo': {
      const before = state.past.at(-1);
      return before
        ? { ...state, past: state.past.slice(0, -1), now: before, future: [state.now, ...state.future] }
        : state;
    }
    case 'redo': {
      const [after, ...future] = state.future;
      return after ? { ...state, past: [...state.past, state.now], now: after, future } : state;
    }
    case 'saving':
      return { ...state, saving: true };
    case 'saved':
      return { ...state, saving: false, saved: act.draft, version: act.version, savedAt: act.at, problem: null };
    case 'failed':
      return { ...state, saving: false, problem: act.problem };
    case 'rebase':
      return { ...state, version: act.version, problem: null };
  }
}

/** An edit is sent once the hand rests this long. */
const REST_MS = 350;
/** While the database or the connection is away, saving is tried again this often. */
const RETRY_MS = 3_000;

/** The table's draft: edits with undo and redo, saved by themselves over the version that was seen. */
export function useCardDraft(card: { id: string; version: number } & Draft) {
  const start: Draft = { lines: card.lines, audience: card.audience, language: card.language };
  const [state, act] = useReducer(reduce, {
    past: [],
    now: start,
    future: [],
    saved: start,
    version: card.version,
    saving: false,
    savedAt: null,
    problem: null,
  });
  const latest = useRef(state);
  useEffect(() => {
    latest.current = state;
  });

  const save = useCallback(async (): Promise<number | null> => {
    const { now, saved, version, saving } = latest.current;
    if (saving) return null;
    if (now === saved) return version;
    act({ do: 'saving' });
    const answer = await call<{ version: number }>(`/api/cards/${card.id}`, {
      method: 'PUT',
      json: { baseVersion: version, ...now },
    });
    if (!answer.ok) {
      act({ do: 'failed', problem: answer.problem });
      return null;
    }
    act({ do: 'saved', draft: now, version: answer.value.version, at: Date.now() });
    return answer.value.version;
  }, [card.id]);

  const { now, saved, saving, problem } = state;
  const waits = problem !== null && problem.code !== 'DATABASE_AWAY' && problem.code !== 'OFFLINE';
  useEffect(() => {
    if (now === saved || saving || waits) return;
    const timer = setTimeout(() => void save(), problem ? RETRY_MS : REST_MS);
    return () => clearTimeout(timer);
  }, [now, saved, saving, waits, problem, save]);

  useEffect(() => {
    if (now === saved) return;
    const warn = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener('beforeunload', warn);
    return () => window.removeEventListener('beforeunload', warn);
  }, [now, saved]);

  return {
    draft: now,
    unsaved: now !== saved,
    savedAt: state.savedAt,
    problem,
    canUndo: state.past.length > 0,
    canRedo: state.future.length > 0,
    edit: (draft: Draft) => act({ do: 'edit', draft }),
    undo: () => act({ do: 'undo' }),
    redo: () => act({ do: 'redo' }),
    /** Saves what is unsaved and answers with the version then, or null when it could not be. */
    flush: save,
    /** After a conflict: puts this draft over the version that somebody else made. */
    putMineOver: (version: number) => act({ do: 'rebase', version }),
  };
}
