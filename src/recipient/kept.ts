import { LRUCache } from 'lru-cache';

/** What a process keeps ready of answers takes this much at most, in bytes, each kind its share; what was asked for least lately goes. */
export const ROOM_FOR = { cards: 96_000_000, drawn: 48_000_000, parts: 16_000_000, strips: 4_000_000 } as const;

/** What is made once, by what it depends on: whoever asks while it is being made waits for the same. What failed is made anew. */
export function keptOnceMade<T>(room: number, sizeOf: (made: T) => number) {
  const kept = new LRUCache<string, { value: T }>({
    maxSize: room,
    sizeCalculation: ({ value }) => Math.max(1, sizeOf(value)),
  });
  const making = new Map<string, Promise<T>>();
  return (key: string, make: () => Promise<T>): Promise<T> => {
    const known = kept.get(key);
    if (known) return Promise.resolve(known.value);
    const begun = making.get(key);
    if (begun) return begun;
    const made = make();
    making.set(key, made);
    made.then(
      (value) => {
        making.delete(key);
        kept.set(key, { value });
      },
      () => making.delete(key),
    );
    return made;
  };
}
