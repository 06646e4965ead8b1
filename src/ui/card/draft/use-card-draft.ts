'use client';
import { useCallback, useEffect, useReducer, useRef, useState } from 'react';
import { editsBetween, type Draft, type Edit } from '@/core/card';
import { call } from '@/ui/studio/call';
import { listen } from '@/ui/studio/listen';
import type { CardNow } from '@/core/shown';
import type { CardOnTable, Typing } from '@/ui/card/card-on-table';
import { recall, remember } from './draft-memory';
import { firstState, reduce } from './draft-state';
import { createTyping } from './typing';

/** An edit is sent once the hand rests this long. */
const REST_MS = 350;
/** While the database or the connection is away, saving is tried again this often. */
const RETRY_MS = 3_000;
/** What is typed is written down in the browser after this long. */
const REMEMBER_MS = 150;

/** A save that takes longer is not waited for by what wants to come after it. */
const LONGEST_SAVE_MS = 10_000;

const WAITS_FOR_SERVER = new Set(['DATABASE_AWAY', 'OFFLINE', 'TOO_MANY_REQUESTS']);

/**
 * The table's draft: edits with undo and redo that outlive a reload, saved by themselves. What somebody else saves meanwhile is
 * merged cell by cell as soon as it is known.
 */
export function useCardDraft(card: CardOnTable) {
  const [state, act] = useReducer(reduce, card, firstState);
  const [typing] = useState(createTyping);
  const [left, setLeft] = useState<Typing | null>(null);
  const latest = useRef(state);
  useEffect(() => {
    latest.current = state;
  });

  const merge = useCallback(async (): Promise<boolean> => {
    const answer = await call<CardNow>(`/api/cards/${card.id}`);
    if (answer.ok) act({ do: 'theirs', card: answer.value });
    else if (answer.problem.code === 'NOT_FOUND') act({ do: 'gone' });
    else act({ do: 'failed', problem: answer.problem });
    return answer.ok;
  }, [card.id]);

  const save = useCallback(async (): Promise<number | null> => {
    const { now, saved, version, saving, gone } = latest.current;
    if (saving || gone) return null;
    if (now === saved) return version;
    act({ do: 'saving' });
    const answer = await call<{ version: number }>(`/api/cards/${card.id}`, {
      method: 'PUT',
      json: { baseVersion: version, ...now },
    });
    if (answer.ok) {
      act({ do: 'saved', draft: now, version: answer.value.version, at: Date.now() });
      return answer.value.version;
    }
    if (answer.problem.code === 'CARD_CHANGED') await merge();
    else if (answer.problem.code === 'NOT_FOUND') act({ do: 'gone' });
    else act({ do: 'failed', problem: answer.problem });
    return null;
  }, [card.id, merge]);

  const flush = useCallback(async (): Promise<number | null> => {
    // A save in flight holds what was edited before it; what came since is saved after it.
    for (let waited = 0; latest.current.saving && waited < LONGEST_SAVE_MS; waited += 50)
      await new Promise((resume) => setTimeout(resume, 50));
    return save();
  }, [save]);

  const { now, saved, saving, problem, gone } = state;
  const waits = problem !== null && !WAITS_FOR_SERVER.has(problem.code);
  useEffect(() => {
    if (now === saved || saving || waits || gone) return;
    const timer = setTimeout(() => void save(), problem ? RETRY_MS : REST_MS);
    return () => clearTimeout(timer);
  }, [now, saved, saving, waits, problem, gone, save]);

  // What this browser kept of an earlier visit comes back first, then everything new is written down.
  const restored = useRef(false);
  useEffect(() => {
    const memory = recall(card.id);
    restored.current = true;
    if (!memory) return;
    act({ do: 'restored', memory });
    typing.set(memory.typing);
    // eslint-disable-next-line react-hooks/set-state-in-effect -- the browser's store is known only after hydration
    setLeft(memory.typing);
  }, [card.id, typing]);
  useEffect(() => {
    if (!restored.current) return;
    const write = () => {
      const { past, future, clashes, saved: kept, now: draft } = latest.current;
      remember(card.id, { edits: editsBetween(kept, draft), past, future, clashes, typing: typing.get() });
    };
    let timer = setTimeout(write, REMEMBER_MS);
    const later = () => {
      clearTimeout(timer);
      timer = setTimeout(write, REMEMBER_MS);
    };
    const forget = typing.subscribe(later);
    window.addEventListener('pagehide', write);
    return () => {
      clearTimeout(timer);
      forget();
      window.removeEventListener('pagehide', write);
    };
  }, [card.id, typing, state.saved, state.now, state.past, state.future, state.clashes]);

  // Others on the same card: the server tells the versions, the card itself is asked for when they are news.
  const [told, setTold] = useState({ version: 0, recordVersion: 0 });
  useEffect(
    () =>
      listen<{ version: number; recordVersion: number; gone: boolean }>(
        `/api/cards/${card.id}/live`,
        (versions, stop) => {
          if (!versions.gone) return setTold(versions);
          act({ do: 'gone' });
          stop();
        },
      ),
    [card.id],
  );
  const news = told.version > state.version || told.recordVersion > state.recordVersion;
  useEffect(() => {
    // Our own save in flight answers by itself; what it does not tell is asked for right after it.
    if (news && !saving && !gone) void merge();
  }, [news, saving, gone, merge]);

  return {
    ...state,
    typing,
    /** What was being typed when this page was left the last time. */
    left,
    unsaved: now !== saved,
    canUndo: state.past.length > 0,
    canRedo: state.future.length > 0,
    edit: useCallback((draft: Draft) => act({ do: 'edit', draft }), []),
    undo: useCallback(() => act({ do: 'undo' }), []),
    redo: useCallback(() => act({ do: 'redo' }), []),
    settle: useCallback((clash: Edit, mine: boolean) => act({ do: 'settled', clash, mine }), []),
    /** Saves what is unsaved and answers with the version then, or null when it could not be. */
    flush,
    /** Takes in what stands on the server now. */
    merge,
  };
}

export type CardDraft = ReturnType<typeof useCardDraft>;
