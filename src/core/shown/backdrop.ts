import type { Backdrop } from '@/core/backdrop';
import type { Leaving } from '@/core/card';
import type { Proof } from '@/core/proof';

/** A backdrop as its screen shows it; the proof is that of its picture. */
export type ShownBackdrop = {
  id: string;
  cardId: string;
  placement: string;
  /** Where its code leads. */
  link: string;
  backdrop: Backdrop;
  /** Whether the draft says something else on it by now. */
  unpublished: boolean;
  /** What is private and on it: everybody in a call sees that. */
  leaving: Leaving[];
  /** The picture as it is downloaded, as a `data:` address, and what it is. */
  picture: string;
  bytes: number;
  type: 'PNG' | 'JPEG';
  proof: Proof;
};
