import type { CardState } from '@/core/card';

/** What stops working when a card is deleted. */
export type Stopping = {
  id: string;
  audience: string;
  state: CardState;
  /** Short addresses, today's first, which answer with a note from then on and are never given to anybody else. */
  addresses: string[];
  handOuts: { placement: string; code: string; frozen: boolean }[];
  /** Contact files that recipients have saved, which stay with them. */
  saves: number;
  planned: boolean;
  /** Cards that rest and send their recipients to it. */
  insteadOf: string[];
};

/** The same of what is deleted as a whole; members whose own record it is. */
export type Stops = { cards: Stopping[]; members: string[] };

/** What is deleted and can still be brought back; instants as ISO 8601. */
export type Deleted = {
  kind: 'record' | 'card';
  id: string;
  name: string;
  /** Of a card. */
  audience: string | null;
  deletedAt: string;
  erasedAt: string;
};
