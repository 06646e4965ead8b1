/** The forms that a card goes out in. A further channel adds itself here. */
export const CHANNELS = ['page', 'file', 'code', 'tag', 'signature', 'print', 'backdrop', 'pass'] as const;
export type Channel = (typeof CHANNELS)[number];

/** The channels that a card has from the beginning; the others' columns stay away until one is wanted, see {@link channelsOf}. */
export const FIRST_CHANNELS: readonly Channel[] = ['page', 'file'];

/** The line of the name, which every card has and whose ticks are locked (FN is required: RFC 6350 6.2.1). */
export const NAME_LINE = 'name';

/** How much a line stands out. What it does is the layout's. */
export const EMPHASES = ['plain', 'strong', 'quiet'] as const;
export type Emphasis = (typeof EMPHASES)[number];

/** What a recipient sees of a card depends on its state. */
export const STATES = ['draft', 'published', 'resting', 'retired'] as const;
export type CardState = (typeof STATES)[number];

/** Parts of a value that may go out in place of the whole. */
export const PARTS = [
  'given',
  'initials',
  'initial-and-family',
  'town',
  'town-and-region',
  'town-and-country',
  'day-and-month',
  'firm',
] as const;
export type Part = (typeof PARTS)[number];
