import type { Typing } from '@/ui/card/card-on-table';

/** The text being typed, told to whoever shows it and to nobody else: the table itself stays as it is with each key stroke. */
export type TypingStore = {
  get: () => Typing | null;
  set: (typing: Typing | null) => void;
  subscribe: (hear: () => void) => () => void;
};

export function createTyping(): TypingStore {
  let now: Typing | null = null;
  const hearers = new Set<() => void>();
  return {
    get: () => now,
    set: (typing) => {
      now = typing;
      hearers.forEach((hear) => hear());
    },
    subscribe: (hear) => {
      hearers.add(hear);
      return () => hearers.delete(hear);
    },
  };
}
