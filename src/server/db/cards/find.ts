import type { Tx } from '../pool';

export type FoundRow = {
  kind: 'person' | 'card' | 'hand-out';
  id: string;
  card_id: string | null;
  name: string;
  about: string;
};

/** The words of what was typed, each of which must be found. */
export const wordsOf = (typed: string): string[] =>
  typed
    .split(/[\s\0]+/)
    .filter(Boolean)
    .slice(0, 8);

/** What holds every word, of all records or of these: people first, then cards, then hand-outs, by name. */
export const findByWords = async (
  tx: Tx,
  words: string[],
  within: 'all' | string[],
  most: number,
): Promise<FoundRow[]> =>
  (
    await tx.raw<{ rows: FoundRow[] }>('SELECT * FROM find_by_words(?::text[], ?::uuid[], ?)', [
      words,
      within === 'all' ? null : within,
      most,
    ])
  ).rows;
