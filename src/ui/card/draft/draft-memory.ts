import type { Edit } from '@/core/card';
import type { Typing } from '@/ui/card/card-on-table';

/** What a browser keeps of a card's table, so that nothing is lost by a reload, a closed lid or a lost connection. */
export type Remembered = {
  /** Edits that the server does not have yet. */
  edits: Edit[];
  past: Edit[][];
  future: Edit[][];
  clashes: Edit[];
  typing: Typing | null;
};

const PREFIX = 'heathland.card.';
const NOTHING: Remembered = { edits: [], past: [], future: [], clashes: [], typing: null };

/** A store that is full, shut or broken costs the memory, never the table. */
const quietly = <T>(work: () => T, otherwise: T): T => {
  try {
    return work();
  } catch {
    return otherwise;
  }
};

export const recall = (card: string): Remembered | null =>
  quietly(() => {
    const kept = window.localStorage.getItem(PREFIX + card);
    return kept ? { ...NOTHING, ...(JSON.parse(kept) as Partial<Remembered>) } : null;
  }, null);

export const remember = (card: string, memory: Remembered): void =>
  quietly(() => {
    const { typing, ...lists } = memory;
    const empty = typing === null && Object.values(lists).every((list) => list.length === 0);
    if (empty) window.localStorage.removeItem(PREFIX + card);
    else window.localStorage.setItem(PREFIX + card, JSON.stringify(memory));
  }, undefined);

/** At signing out: the next person at this browser finds nothing of it. */
export const forgetCards = (): void =>
  quietly(() => {
    for (const key of Object.keys(window.localStorage)) if (key.startsWith(PREFIX)) window.localStorage.removeItem(key);
  }, undefined);
