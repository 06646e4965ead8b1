'use client';
import type { ReactNode } from 'react';
import { Button } from 'react-bootstrap';
import { BLOCK_FIELDS, BLOCKS_WORDS } from '@/core/words';

/** The entries of a block, each with its fields, moved and removed one by one. */
export function EntryList<T extends { id: string }>({
  entries,
  most,
  addWord,
  nameOf,
  mayRemove = () => true,
  fresh,
  onEntries,
  children,
}: {
  entries: T[];
  most: number;
  addWord: string;
  nameOf: (at: number) => string;
  mayRemove?: (entry: T) => boolean;
  fresh: () => T;
  onEntries: (entries: T[]) => void;
  children: (entry: T, change: (part: Partial<T>) => void) => ReactNode;
}) {
  const move = (at: number, by: number) => {
    const next = [...entries];
    const [entry] = next.splice(at, 1);
    next.splice(at + by, 0, entry!);
    onEntries(next);
  };
  return (
    <>
      <ol className="entries">
        {entries.map((entry, at) => (
          <li key={entry.id} aria-label={nameOf(at + 1)}>
            <div className="entry-fields">
              {children(entry, (part) =>
                onEntries(entries.map((each) => (each === entry ? { ...each, ...part } : each))),
              )}
            </div>
            <div className="entry-acts">
              <button
                type="button"
                className="plain"
                disabled={at === 0}
                aria-label={BLOCKS_WORDS.up(nameOf(at + 1))}
                onClick={() => move(at, -1)}
              >
                ↑
              </button>
              <button
                type="button"
                className="plain"
                disabled={at === entries.length - 1}
                aria-label={BLOCKS_WORDS.down(nameOf(at + 1))}
                onClick={() => move(at, 1)}
              >
                ↓
              </button>
              {mayRemove(entry) && (
                <button
                  type="button"
                  className="plain"
                  aria-label={BLOCK_FIELDS.removeEntry(at + 1)}
                  onClick={() => onEntries(entries.filter((each) => each !== entry))}
                >
                  ×
                </button>
              )}
            </div>
          </li>
        ))}
      </ol>
      {entries.length < most && (
        <Button variant="quiet" size="sm" onClick={() => onEntries([...entries, fresh()])}>
          {addWord}
        </Button>
      )}
    </>
  );
}
