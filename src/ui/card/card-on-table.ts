import type { Composition, Line } from '@/core/card';
import type { Language } from '@/core/messages';
import type { PersonRecord } from '@/core/record';
import type { CardInHead } from './card-head';

/** All that the table of a card starts from. */
export type CardOnTable = CardInHead & {
  version: number;
  lines: Line[];
  language: Language | null;
  isPrivate: boolean;
  record: PersonRecord;
  revision: { number: number; publishedAt: string; composition: Composition } | null;
  photo: string | null;
};
