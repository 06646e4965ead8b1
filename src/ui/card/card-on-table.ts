import type { Block, CardState, Channel, Composition, Line, Opens, Words } from '@/core/card';
import type { HouseStyle } from '@/core/house';
import type { Look } from '@/core/look';
import type { Problem } from '@/core/errors';
import type { Language } from '@/core/language';
import type { PersonRecord } from '@/core/record';
import type { EmbeddedPicture } from '@/core/vcard';
import type { CardInHead } from './card-head';

/** What changes when somebody else saves. */
export type CardNow = {
  version: number;
  recordVersion: number;
  state: CardState;
  lines: Line[];
  audience: string;
  language: Language | null;
  blocks: Block[];
  opens: Opens;
  words: Words;
  look: Look;
  record: PersonRecord;
};

/** What happens to the card by itself; instants are ISO 8601. */
export type Plan = {
  publishAt: string | null;
  endsAt: string | null;
  endsWith: 'resting' | 'retired' | null;
  problem: Problem | null;
  /** What goes out at its time. */
  composition: Composition | null;
};

/** All that the table of a card starts from. */
export type CardOnTable = CardInHead &
  CardNow & {
    isPrivate: boolean;
    start: string | null;
    notice: string;
    instead: string | null;
    channels: Channel[];
    plan: Plan | null;
    suggested: string | null;
    revision: { number: number; publishedAt: string; composition: Composition } | null;
    /** The pictures of its record and house style as contact files carry them. */
    pictures: ({ hash: string } & EmbeddedPicture)[];
    house: HouseStyle | null;
    mayOverride: boolean;
  };

/** The text in a cell that is being typed, not yet kept. */
export type Typing = { line: string; cell: 'label' | 'wording'; text: string };
