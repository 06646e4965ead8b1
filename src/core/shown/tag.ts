import type { Leaving } from '@/core/card';
import type { TagContent } from '@/core/code';
import type { TagRoom } from '@/core/ndef';
import type { Proof } from '@/core/proof';

/** A tag as its screen shows it: `memory` are its bytes in base64, sizes in bytes. */
export type ShownTag = {
  id: string;
  cardId: string;
  code: string;
  placement: string;
  link: string;
  content: TagContent;
  /** How much it holds, when it was written last, how often, and whether it was locked then. */
  state: { room: TagRoom; writtenAt: string | null; writes: number; locked: boolean };
  live: boolean;
  /** The revision that a frozen one carries, and the one that is published. */
  revision: number | null;
  latest: number;
  memory: string;
  /** Whether today's card would have it carry something else. */
  renews: boolean;
  proof: Proof;
  /** The lines without which today's contact fits its size; null where it does not even without any. */
  leaveOut: string[] | null;
  leaving: Leaving[];
  /** Whether a tap opens the card, so that it can be tested here. */
  tests: boolean;
  testedAt: string | null;
  waits: boolean;
  mayWrite: boolean;
};
