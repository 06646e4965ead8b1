import { editsBetween, type Draft, type Edit } from '@/core/card';
import type { Result } from '@/core/errors';
import type { CardNow } from '@/core/shown';
import { firstState, reduce, type DraftAct, type DraftState } from './draft-state';

/** What the draft asks the server for. */
export type DraftServer = {
  read: () => Promise<Result<CardNow>>;
  save: (draft: Draft & { baseVersion: number }) => Promise<Result<{ version: number }>>;
};

/** A save that takes longer is not waited for by what wants to come after it. */
const LONGEST_SAVE_MS = 10_000;
/** Somebody else may save between our merging and our saving again; more often than this we ask the person to try again. */
const MERGES = 4;

/**
 * The draft of one table, as it stands at this instant: whoever asks right after an edit or a save finds it done. One save is
 * under way at a time; another asked for meanwhile follows it.
 */
export function createDraftStore(card: CardNow, server: DraftServer) {
  let state = firstState(card);
  let flight: Promise<number | null> | null = null;
  const hearers = new Set<() => void>();

  const get = (): DraftState => state;
  const act = (done: DraftAct): void => {
    const next = reduce(state, done);
    if (next === state) return;
    state = next;
    hearers.forEach((hear) => hear());
  };
  const merge = async (): Promise<boolean> => {
    const answer = await server.read();
    if (answer.ok) act({ do: 'theirs', card: answer.value });
    else if (answer.problem.code === 'NOT_FOUND') act({ do: 'gone' });
    else act({ do: 'failed', problem: answer.problem });
    return answer.ok;
  };

  async function send(): Promise<number | null> {
    const { now, saved, version, gone } = state;
    if (gone) return null;
    if (now === saved) return version;
    act({ do: 'saving' });
    const answer = await server.save({ baseVersion: version, ...now });
    if (answer.ok) {
      act({ do: 'saved', draft: now, version: answer.value.version, at: Date.now() });
      return answer.value.version;
    }
    if (answer.problem.code === 'CARD_CHANGED') await merge();
    else if (answer.problem.code === 'NOT_FOUND') act({ do: 'gone' });
    else act({ do: 'failed', problem: answer.problem });
    return null;
  }

  /** Saves what is unsaved, or waits for the save under way; answers with the version then, or null when it could not be. */
  const save = (): Promise<number | null> =>
    (flight ??= send().finally(() => {
      flight = null;
    }));

  /** Saves everything up to now, merging what others save meanwhile; answers with the version then, or null. */
  async function flush(): Promise<number | null> {
    if (flight) {
      let timer: ReturnType<typeof setTimeout> | undefined;
      await Promise.race([flight, new Promise((resume) => (timer = setTimeout(resume, LONGEST_SAVE_MS)))]);
      clearTimeout(timer);
    }
    for (let round = 0; round < MERGES; round += 1) {
      const version = await save();
      if (version !== null && state.now === state.saved) return version;
      if (state.problem || state.gone) return null;
    }
    return null;
  }

  return {
    get,
    subscribe: (hear: () => void) => {
      hearers.add(hear);
      return () => void hearers.delete(hear);
    },
    act,
    save,
    flush,
    /** Takes in what stands on the server now; answers whether it could be read. */
    merge,
    edit: (edits: Edit[]) => act({ do: 'edit', edits }),
    /** Edits that lead from the draft as somebody saw it to another whole one, as an earlier revision is restored. */
    change: (seen: Draft, to: Draft) => act({ do: 'edit', edits: editsBetween(seen, to) }),
  };
}

export type DraftStore = ReturnType<typeof createDraftStore>;
