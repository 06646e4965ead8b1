import { applyEdits, cellOf, draftOf, editsBetween, inverseOf, type Draft, type Edit } from '@/core/card';
import type { Problem } from '@/core/errors';
import type { PersonRecord } from '@/core/record';
import type { CardNow } from '@/core/shown';
import type { Remembered } from './draft-memory';

/** The table's draft: what the server has, what stands on screen, and the edits between that can be undone. */
export type DraftState = {
  saved: Draft;
  version: number;
  now: Draft;
  past: Edit[][];
  future: Edit[][];
  /** Edits of ours in cells that somebody else has changed meanwhile: theirs stands, ours waits for a decision. */
  clashes: Edit[];
  record: PersonRecord;
  recordVersion: number;
  /** How often somebody else's saves were taken in. */
  theirs: number;
  saving: boolean;
  savedAt: number | null;
  problem: Problem | null;
  gone: boolean;
};

export type DraftAct =
  | { do: 'edit'; edits: Edit[] }
  | { do: 'undo' | 'redo' | 'saving' | 'gone' }
  | { do: 'saved'; draft: Draft; version: number; at: number }
  | { do: 'failed'; problem: Problem }
  | { do: 'theirs'; card: CardNow }
  | { do: 'restored'; memory: Remembered }
  | { do: 'settled'; clash: Edit; mine: boolean };

const LONGEST_HISTORY = 500;

export function firstState(card: CardNow): DraftState {
  const draft = draftOf(card);
  return {
    saved: draft,
    version: card.version,
    now: draft,
    past: [],
    future: [],
    clashes: [],
    record: card.record,
    recordVersion: card.recordVersion,
    theirs: 0,
    saving: false,
    savedAt: null,
    problem: null,
    gone: false,
  };
}

/** Whether two edits are of the same cell. */
export const sameCell = (a: Edit, b: Edit): boolean =>
  (a.edit === 'cell' && b.edit === 'cell' && a.line === b.line && a.cell === b.cell) ||
  (a.edit === 'card' && b.edit === 'card' && a.cell === b.cell) ||
  (a.edit === 'block' && b.edit === 'block' && a.block === b.block) ||
  (a.edit === 'words' && b.edit === 'words' && a.language === b.language && a.key === b.key);

const withClashes = (known: Edit[], more: Edit[]): Edit[] => [
  ...known.filter((clash) => !more.some((each) => sameCell(each, clash))),
  ...more,
];

export function reduce(state: DraftState, act: DraftAct): DraftState {
  switch (act.do) {
    case 'edit': {
      // Made on what stood there when the hand moved: what somebody else has set meanwhile waits for a decision.
      const { draft, refused } = applyEdits(state.now, act.edits);
      const edits = act.edits.filter((each) => !refused.includes(each));
      const clashes = refused.length > 0 ? withClashes(state.clashes, refused) : state.clashes;
      if (edits.length === 0 || draft === state.now) return clashes === state.clashes ? state : { ...state, clashes };
      return { ...state, past: [...state.past, edits].slice(-LONGEST_HISTORY), now: draft, future: [], clashes };
    }
    case 'undo': {
      const last = state.past.at(-1);
      if (!last) return state;
      const { draft } = applyEdits(state.now, inverseOf(last));
      return { ...state, past: state.past.slice(0, -1), now: draft, future: [last, ...state.future] };
    }
    case 'redo': {
      const [next, ...future] = state.future;
      if (!next) return state;
      return { ...state, past: [...state.past, next], now: applyEdits(state.now, next).draft, future };
    }
    case 'saving':
      return { ...state, saving: true };
    case 'gone':
      return { ...state, gone: true, saving: false };
    case 'saved':
      return { ...state, saving: false, saved: act.draft, version: act.version, savedAt: act.at, problem: null };
    case 'failed':
      return { ...state, saving: false, problem: act.problem };
    case 'theirs': {
      // Our unsaved edits go on top of what they saved, cell by cell.
      const theirs = draftOf(act.card);
      const { draft, refused } = applyEdits(theirs, editsBetween(state.saved, state.now));
      return {
        ...state,
        saving: false,
        saved: theirs,
        now: draft,
        version: act.card.version,
        record: act.card.record,
        recordVersion: act.card.recordVersion,
        theirs: state.theirs + 1,
        clashes: withClashes(state.clashes, refused),
        problem: null,
      };
    }
    case 'restored': {
      const { draft, refused } = applyEdits(state.now, act.memory.edits);
      return {
        ...state,
        now: draft,
        past: act.memory.past,
        future: act.memory.future,
        clashes: withClashes(act.memory.clashes, refused),
      };
    }
    case 'settled': {
      const clashes = state.clashes.filter((clash) => clash !== act.clash);
      if (!act.mine) return { ...state, clashes };
      // Put over theirs: from whatever stands there now.
      const forced = forceEdit(state.now, act.clash);
      const edits = editsBetween(state.now, forced);
      return { ...state, clashes, now: forced, past: [...state.past, edits], future: [] };
    }
  }
}

/** An edit of ours over whatever stands in its cell now. */
function forceEdit(draft: Draft, clash: Edit): Draft {
  if (clash.edit === 'card') return applyEdits(draft, [{ ...clash, from: draft[clash.cell] }]).draft;
  if (clash.edit === 'block') {
    const now = draft.blocks.find(({ id }) => id === clash.block) ?? null;
    return applyEdits(draft, [{ ...clash, from: now }]).draft;
  }
  if (clash.edit === 'words')
    return applyEdits(draft, [{ ...clash, from: draft.words[clash.language]?.[clash.key] ?? '' }]).draft;
  const line = clash.edit === 'cell' && draft.lines.find(({ detail }) => detail === clash.line);
  return line ? applyEdits(draft, [{ ...clash, from: cellOf(line, clash.cell) }]).draft : draft;
}
