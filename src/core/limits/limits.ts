/** A stated limit: its number, what is counted, and why it is this number. The docs' table is made from this one. */
type Stated = readonly [value: number, unit: string, why: string];

/** Sizes and counts, all in one place. A missing or broken value never switches one off: they are constants. */
export const STATED_LIMITS = {
  text: [
    1_000,
    'characters',
    'longer than any job title, street or label in practice; keeps a page within a round trip',
  ],
  note: [10_000, 'characters', 'a note should be one line, yet what was imported must not be lost'],
  email: [254, 'characters', 'RFC 5321 4.5.3.1.3: a path of 256 octets with its angle brackets'],
  link: [2_000, 'characters', 'common limit of browsers and servers for an address'],
  name: [200, 'characters', 'the longest names of registers are shorter'],
  label: [120, 'characters', 'a label that wraps twice is no label any more'],
  audience: [80, 'characters', 'one line in the list of people'],
  placement: [80, 'characters', 'one line in the list of hand-outs'],
  details: [
    400,
    'details of a record',
    'a person of many offices has about forty; ten times that is a mistake or an attack',
  ],
  lines: [800, 'lines of a card', 'every detail of a record and as many of the card’s own'],
  blocks: [24, 'blocks of a card', 'nine kinds; some, as galleries, twice'],
  items: [12, 'items of a block', 'pictures of a gallery that somebody in a hall still looks through'],
  videos: [5, 'videos of a block', 'five happen (common practice)'],
  buttons: [8, 'buttons of the action bar', 'seven acts, and a second number'],
  blockText: [2_000, 'characters', 'a screen and a half of a phone; keeps a page within a round trip'],
  videoBytes: [
    40_000_000,
    'bytes',
    'half a minute at ten megabits a second; 10 to 30 seconds are usual (common practice)',
  ],
  captionBytes: [200_000, 'bytes', 'the words of an hour'],
  revisionNote: [200, 'characters', 'one line of a list'],
  cards: [200, 'cards of a person', 'ten are usual, a hundred happen'],
  audiences: [40, 'audience presets', 'a list that is still chosen from at a glance'],
  previewHours: [24, 'hours', 'long enough to show a draft around for a day, too short to be printed'],
  kept: [1_000, 'properties', 'what an imported file may leave behind beside the details'],
  keptProperty: [200_000, 'characters', 'a logo or a spoken name within a contact file; more is named and left out'],
  keptLetters: [
    1_000_000,
    'characters',
    'all that a contact may leave behind, so that its record can still be saved whole',
  ],
  jsonBytes: [2_000_000, 'bytes', 'a record with every detail at its longest is smaller; files come as bytes'],
  contactFileBytes: [
    30_000_000,
    'bytes',
    'five thousand contacts of which every tenth has a photo of a phone’s usual size',
  ],
  contactsAtOnce: [5_000, 'contacts', 'the largest company that product.md names'],
  photoBytes: [20_000_000, 'bytes', 'photos of phones have up to about ten megabytes'],
  megapixels: [50, 'megapixels', 'a large phone camera; decoded, four bytes each, that is 200 MB of memory'],
  svgBytes: [500_000, 'bytes', 'a drawn logo is a few kilobytes; more is a picture in disguise or an attack'],
  members: [500, 'members', 'people who sign in; the roster holds many more'],
  jobsWaiting: [20, 'jobs', 'of one organisation at a time, so that nobody fills the queue for others'],
} as const satisfies Record<string, Stated>;

export type LimitName = keyof typeof STATED_LIMITS;

export const LIMITS = Object.fromEntries(Object.entries(STATED_LIMITS).map(([name, [value]]) => [name, value])) as {
  readonly [N in LimitName]: (typeof STATED_LIMITS)[N][0];
};

/** So many requests of a kind within a window of seconds, counted by who asks, over all processes together. */
type Rate = { count: number; seconds: number; by: 'address' | 'person' | 'organisation'; why: string };

/** Requests by kind. Recipients have no entry: a hall of people behind one address must never be turned away. */
export const RATES = {
  'sign-up': { count: 100, seconds: 3_600, by: 'address', why: 'a course signs up behind one address' },
  'sign-in': {
    count: 100,
    seconds: 900,
    by: 'address',
    why: 'an office signs in on Monday morning behind one address',
  },
  'sign-in to an account': {
    count: 10,
    seconds: 900,
    by: 'address',
    why: 'one address trying one account: enough for a forgetful person. Counted by both, so that nobody locks another out',
  },
  change: { count: 600, seconds: 60, by: 'person', why: 'saving is automatic: ten edits a second are still a person' },
  import: { count: 60, seconds: 600, by: 'organisation', why: 'each is decoded, scaled and stored' },
  picture: { count: 120, seconds: 600, by: 'person', why: 'each costs a second of a processor' },
  film: { count: 30, seconds: 600, by: 'person', why: 'each is up to 40 MB' },
  publish: { count: 120, seconds: 60, by: 'organisation', why: 'each makes a revision that is kept for ever' },
  export: { count: 60, seconds: 600, by: 'person', why: 'each reads up to five thousand records' },
  progress: {
    count: 600,
    seconds: 60,
    by: 'person',
    why: 'one for each job on screen, and again when a browser reconnects',
  },
  search: { count: 600, seconds: 60, by: 'person', why: 'one for each letter typed' },
} as const satisfies Record<string, Rate>;

export type RateKind = keyof typeof RATES;

/** The start of the window (milliseconds) that an instant belongs to, and the seconds until the next one begins. */
export function windowOf(kind: RateKind, now: number): { start: number; secondsLeft: number } {
  const length = RATES[kind].seconds * 1_000;
  const start = Math.floor(now / length) * length;
  return { start, secondsLeft: Math.ceil((start + length - now) / 1_000) };
}
