'use client';
import { useCallback, useEffect, useRef, useState, useSyncExternalStore } from 'react';
import { editCard, editsBetween, type CardCell, type Draft, type Edit } from '@/core/card';
import { call } from '@/ui/studio/call';
import { listen } from '@/ui/studio/listen';
import type { CardOnTable, Typing } from '@/ui/card/card-on-table';
import { recall, remember } from './draft-memory';
import { createDraftStore } from './draft-store';
import { createTyping } from './typing';

/** An edit is sent once the hand rests this long. */
const REST_MS = 350;
/** While the database or the connection is away, saving is tried again this often. */
const RETRY_MS = 3_000;
/** What is typed is written down in the browser after this long. */
const REMEMBER_MS = 150;

const WAITS_FOR_SERVER = new Set(['DATABASE_UNAVAILABLE', 'OFFLINE', 'TOO_MANY_REQUESTS']);

/**
 * The table's draft: edits with undo and redo that outlive a reload, saved by themselves. What somebody else saves meanwhile is
 * merged cell by cell as soon as it is known.
 */
export function useCardDraft(card: CardOnTable) {
  const path = `/api/cards/${card.id}`;
  const [typing] = useState(createTyping);
  const [store] = useState(() =>
    createDraftStore(card, {
      read: () => call(path),
      save: (draft) => call(path, { method: 'PUT', json: draft }),
    }),
  );
  const state = useSyncExternalStore(store.subscribe, store.get, store.get);
  const [left, setLeft] = useState<Typing | null>(null);

  const { now, saved, saving, problem, gone } = state;
  const waits = problem !== null && !WAITS_FOR_SERVER.has(problem.code);
  useEffect(() => {
    if (now === saved || saving || waits || gone) return;
    const timer = setTimeout(() => void store.save(), problem ? RETRY_MS : REST_MS);
    return () => clearTimeout(timer);
  }, [now, saved, saving, waits, problem, gone, store]);

  // What this browser kept of an earlier visit comes back first, then everything new is written down.
  const restored = useRef(false);
  useEffect(() => {
    const memory = recall(card.id);
    restored.current = true;
    if (!memory) return;
    store.act({ do: 'restored', memory });
    typing.set(memory.typing);
    // eslint-disable-next-line react-hooks/set-state-in-effect -- the browser's store is known only after hydration
    setLeft(memory.typing);
  }, [card.id, store, typing]);
  useEffect(() => {
    if (!restored.current) return;
    const write = () => {
      const { past, future, clashes, saved: kept, now: draft } = store.get();
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
  }, [card.id, store, typing, state.saved, state.now, state.past, state.future, state.clashes]);

  // Others on the same card: the server tells the versions, the card itself is asked for when they are news.
  const [told, setTold] = useState({ version: 0, recordVersion: 0 });
  useEffect(
    () =>
      listen<{ version: number; recordVersion: number; gone: boolean }>(`${path}/live`, (versions, stop) => {
        if (!versions.gone) return setTold(versions);
        store.act({ do: 'gone' });
        stop();
      }),
    [path, store],
  );
  const news = told.version > state.version || told.recordVersion > state.recordVersion;
  useEffect(() => {
    // Our own save in flight answers by itself; what it does not tell is asked for right after it.
    if (news && !saving && !gone) void store.merge();
  }, [news, saving, gone, store]);

  return {
    ...state,
    typing,
    /** What was being typed when this page was left the last time. */
    left,
    unsaved: now !== saved,
    canUndo: state.past.length > 0,
    canRedo: state.future.length > 0,
    edit: store.edit,
    /** Sets what belongs to the card as a whole. */
    editCard: useCallback(
      <C extends CardCell>(cell: C, to: Draft[C]) => store.edit(editCard(store.get().now, cell, to)),
      [store],
    ),
    change: store.change,
    undo: useCallback(() => store.act({ do: 'undo' }), [store]),
    redo: useCallback(() => store.act({ do: 'redo' }), [store]),
    settle: useCallback((clash: Edit, mine: boolean) => store.act({ do: 'settled', clash, mine }), [store]),
    flush: store.flush,
    merge: store.merge,
  };
}

export type CardDraft = ReturnType<typeof useCardDraft>;
