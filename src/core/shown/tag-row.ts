import type { TagContent } from '@/core/code';
import type { TagRoom } from '@/core/ndef';

/** One tag among many of a placement: `memory` are its bytes in base64, sizes in bytes; `number` of one that was made in advance. */
export type RowTag = {
  id: string;
  cardId: string;
  person: string;
  audience: string;
  number: number | null;
  what: TagContent['what'];
  link: string;
  memory: string;
  room: TagRoom;
  live: boolean;
  writtenAt: string | null;
  locked: boolean;
  state: 'out' | 'resting' | 'retired';
  mayWrite: boolean;
};

/** Where there are tags, how many and how many are written; and those of one placement, by person. */
export type TagRows = {
  placements: { id: string; name: string; tags: number; written: number }[];
  of: { id: string; name: string } | null;
  tags: RowTag[];
  /** How many there are; of very many the first ones are shown. */
  total: number;
};
