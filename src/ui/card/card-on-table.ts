import type { CardNow, ShownPlan } from '@/core/shown';
import type { Channel, Composition } from '@/core/card';
import type { HouseStyle, Owned } from '@/core/house';
import type { EmbeddedPicture } from '@/core/vcard';
import type { CardInHead } from './card-head';

/** All that the table of a card starts from. */
export type CardOnTable = CardInHead &
  CardNow & {
    isPrivate: boolean;
    start: string | null;
    notice: string;
    instead: string | null;
    channels: Channel[];
    plan: ShownPlan | null;
    suggested: string | null;
    revision: { number: number; publishedAt: string; composition: Composition } | null;
    /** The pictures of its record and house style as contact files carry them; null while the file store is unavailable. */
    pictures: ({ hash: string } & EmbeddedPicture)[] | null;
    house: HouseStyle | null;
    /** Whether there is a house style, and not an office's lines alone. */
    hasHouse: boolean;
    mayOverride: boolean;
    owned: Owned;
  };

/** The text in a cell that is being typed, not yet kept. */
export type Typing = { line: string; cell: 'label' | 'wording'; text: string };
