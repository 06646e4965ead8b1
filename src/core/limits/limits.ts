/** Sizes and counts, all in one place; units and reasons by the same names in `reasons.ts`. A missing or broken value never switches one off: they are constants. */
export const LIMITS = {
  text: 1_000,
  note: 10_000,
  email: 254,
  link: 2_000,
  name: 200,
  label: 120,
  audience: 80,
  placement: 80,
  details: 400,
  lines: 800,
  blocks: 24,
  items: 12,
  videos: 6,
  buttons: 8,
  blockText: 2_000,
  videoBytes: 40_000_000,
  captionBytes: 200_000,
  revisionNote: 200,
  cards: 200,
  audiences: 40,
  previewHours: 24,
  shownLines: 600,
  shownLetters: 40_000,
  contactProperties: 2_000,
  contactHead: 10_000,
  kept: 1_000,
  keptProperty: 200_000,
  keptLetters: 1_000_000,
  sheetBytes: 20_000_000,
  sheetPartsBytes: 120_000_000,
  sheetParts: 400,
  rosterRows: 10_000,
  rosterColumns: 200,
  rosterLine: 200_000,
  rosterMappings: 40,
  rosterDays: 30,
  teams: 200,
  offices: 300,
  jsonBytes: 2_000_000,
  formBytes: 200_000,
  jsonDepth: 40,
  jsonValues: 60_000,
  contactFileBytes: 30_000_000,
  contactsAtOnce: 5_000,
  codeBytes: 2_330,
  designBytes: 20_000_000,
  artworkBytes: 20_000_000,
  artworkName: 120,
  designerDays: 60,
  designerLinks: 20,
  photoBytes: 20_000_000,
  megapixels: 50,
  svgBytes: 500_000,
  svgElements: 5_000,
  svgDepth: 60,
  svgAttributes: 100,
  languages: 8,
  houseLines: 12,
  houseBlocks: 4,
  lockReason: 200,
  looks: 50,
  patterns: 12,
  members: 10_000,
  jobsWaiting: 20,
  addresses: 12,
  organisationBytes: 2_000_000_000,
  deletedDays: 30,
  jobsDays: 90,
  mailsWaiting: 1_000,
  mailDays: 30,
  spareCodes: 2_000,
  sparesAtOnce: 500,
  strips: 6,
  templates: 30,
  printRuns: 500,
  printedTogether: 500,
  mendedTogether: 500,
  tagsTogether: 1_000,
  tagsShown: 2_000,
  contacts: 1_000,
  contactDetails: 60,
  referralDays: 90,
} as const;

export type LimitName = keyof typeof LIMITS;

/** So many requests of a kind within a window of seconds, counted by who asks, over all processes together. */
type Rate = {
  count: number;
  seconds: number;
  by: 'address' | 'person' | 'organisation' | 'account' | 'hand-out';
  why: string;
};

/** Requests by kind. Recipients have no entry: a hall of people behind one address must never be turned away. */
export const RATES = {
  'sign-up': { count: 100, seconds: 3_600, by: 'address', why: 'a course signs up behind one address' },
  'sign-in': {
    count: 100,
    seconds: 900,
    by: 'address',
    why: 'an office signs in on Monday morning behind one address',
  },
  guess: {
    count: 30,
    seconds: 900,
    by: 'account',
    why: 'from all networks together, of browsers that it was never signed in with; beyond it each waits three seconds, and nobody is locked out',
  },
  'second factor': { count: 10, seconds: 900, by: 'person', why: 'codes have six digits; who asks knows the password' },
  'sign-in told': {
    count: 1,
    seconds: 3_600,
    by: 'account',
    why: 'the audit trail tells of failed sign-ins, and is not filled by them',
  },
  'sign-in to an account': {
    count: 10,
    seconds: 900,
    by: 'address',
    why: 'one address trying one account: enough for a forgetful person. Counted by both, so that nobody locks another out',
  },
  'letter to an address': {
    count: 5,
    seconds: 3_600,
    by: 'address',
    why: 'by the address that it goes to, whoever asks: nobody’s letter box is filled by others',
  },
  'sign-in code': {
    count: 5,
    seconds: 3_600,
    by: 'address',
    why: 'codes to sign in by, by the address that they go to: a mail that is late, and another one. Six guesses each: fewer than a thousand a day of a million',
  },
  'way back in': {
    count: 5,
    seconds: 3_600,
    by: 'address',
    why: 'links to choose a new password, by their address; counted apart, so that nobody uses them up by signing up with it',
  },
  'forgotten password': {
    count: 30,
    seconds: 3_600,
    by: 'address',
    why: 'an office behind one address forgets over a summer',
  },
  message: { count: 100, seconds: 86_400, by: 'person', why: 'a day at a fair; more is a mailing, which this is not' },
  'test mail': { count: 20, seconds: 3_600, by: 'person', why: 'each is looked at by the person who asked for it' },
  pass: { count: 60, seconds: 600, by: 'hand-out', why: 'phones ask when somebody looks at it; each is signed anew' },
  link: { count: 60, seconds: 900, by: 'address', why: 'links of letters cannot be guessed; each is looked up' },
  change: { count: 600, seconds: 60, by: 'person', why: 'saving is automatic: ten edits a second are still a person' },
  import: { count: 60, seconds: 600, by: 'organisation', why: 'each is decoded, scaled and stored' },
  picture: { count: 120, seconds: 600, by: 'person', why: 'each costs a second of a processor' },
  'picture of many': {
    count: 6_000,
    seconds: 3_600,
    by: 'organisation',
    why: 'the portraits of a whole company at once; each takes its turn in the compute pool',
  },
  film: { count: 30, seconds: 600, by: 'person', why: 'each is up to 40 MB' },
  house: { count: 30, seconds: 60, by: 'organisation', why: 'each holds up to five thousand cards against it' },
  publish: { count: 120, seconds: 60, by: 'organisation', why: 'each makes a revision that is kept for ever' },
  address: {
    count: 30,
    seconds: 86_400,
    by: 'person',
    why: 'by hand a person names a few cards a day; each is kept for ever',
  },
  export: { count: 60, seconds: 600, by: 'person', why: 'each reads up to five thousand records' },
  archive: {
    count: 6,
    seconds: 3_600,
    by: 'organisation',
    why: 'each reads everything of an organisation',
  },
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
