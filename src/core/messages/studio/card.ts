import type { CardState, Channel, Emphasis, Part } from '@/core/card/channels';

export const CHANNEL_WORDS: Record<Channel, string> = {
  page: 'Page',
  file: 'Contact file',
  code: 'Code',
  tag: 'Tag',
};

/** A channel inside a sentence. */
export const channelWord = (channel: Channel): string => CHANNEL_WORDS[channel].toLowerCase();

const LIST = new Intl.ListFormat('en-GB', { type: 'conjunction' });
const OR = new Intl.ListFormat('en-GB', { type: 'disjunction' });
const channels = (on: Channel[]): string => LIST.format(on.map(channelWord));

/** The card's table: head, ledger, specimen. */
export const CARD = {
  page: 'Card',
  state: { draft: 'draft', published: 'published', resting: 'resting', retired: 'retired' } satisfies Record<
    CardState,
    string
  >,
  publishedAs: (revision: number | null) => `published, revision ${revision}`,
  headPublishedAs: (revision: number | undefined) => `Published, revision ${revision}`,
  headDraft: 'Draft, nobody sees it yet',
  turns: 'Turns of this card',
  turn: { lines: 'Lines', 'hand-outs': 'Hand-outs', response: 'Response' },
  showCode: 'Show code',
  publish: 'Publish',
  audience: 'Audience',
  renameNote: 'Rename this card; recipients never see this name',
  changesSince: (changes: number) => (changes === 1 ? '1 change since' : `${changes} changes since`),

  order: 'Order',
  line: 'Line',
  reads: 'As it reads on the card',
  settings: 'More',
  seeChannel: (channel: Channel) => `See what a recipient gets: ${channelWord(channel)}`,
  columnOf: {
    page: '',
    file: '',
    code: 'if frozen',
    tag: 'if frozen',
  } satisfies Record<Channel, string>,
  columnNote: {
    page: '',
    file: '',
    code: 'A live code holds a link and shows what the page shows. These ticks say what a frozen code carries.',
    tag: 'A live tag holds a link and shows what the page shows. These ticks say what a frozen tag carries.',
  } satisfies Record<Channel, string>,
  tickAll: (channel: Channel) => `All lines on ${channelWord(channel)}`,
  foot: (lines: number, nowhere: number): string => `${lines} lines, ${nowhere} of them nowhere.`,
  cost: (bytes: number) => `${bytes} bytes`,
  costs: (bytes: number, room: number) => `${bytes} of ${room} B`,
  roomLeft: (lines: number): string =>
    lines < 0
      ? 'too much'
      : lines === 0
        ? 'full'
        : `room for about ${lines === 1 ? 'one more line' : `${lines} more lines`}`,
  roomOf: (channel: Channel, lines: number): string => `${CHANNEL_WORDS[channel]}: ${CARD.roomLeft(lines)}.`,
  keys: 'Arrows move, Space ticks, Enter edits, 0 puts a line nowhere, Alt with an arrow moves it, Ctrl Z undoes.',
  moveLine: (title: string) => `Move ${title}: drag, or Alt with an arrow`,
  labelOf: (title: string) => `Label of ${title}`,
  wordingOf: (title: string) => `Wording of ${title}`,
  settingsOf: (title: string) => `More about ${title}`,
  noLabel: 'no label',
  withTheCard: 'with the card',
  differs: 'differs from record',
  onlyHere: 'on this card only',
  revert: 'revert',
  backTo: (wording: string) => `Back to “${wording}”`,
  adopt: 'adopt into record',
  adoptNote: 'Writes this into the record; other cards that show it change when they are published again',
  adopted: 'Adopted into the record.',
  private: 'private',
  nameNote: 'Every card carries the name: a contact file needs one (RFC 6350, 6.2.1)',
  nameLocked: (channel: Channel) => `Always on ${channelWord(channel)}: a contact file needs a name`,
  tick: (title: string, channel: Channel) => `${title} on ${channelWord(channel)}`,

  filter: 'Filter lines',
  filterHint: 'Filter lines  /',
  show: 'Show',
  shows: { all: 'all', out: 'going out', nowhere: 'nowhere', differs: 'differing' },
  noLines: 'No line is like that.',
  backToLayout: 'Back to layout',
  backToLayoutNote: 'Order, labels and emphasis as the layout has them; ticks and wordings stay',
  clearFilter: 'Show all',

  part: 'Goes out',
  whole: 'whole',
  parts: {
    given: 'first name only',
    initials: 'initials',
    'initial-and-family': 'initial and family name',
    town: 'town only',
    'town-and-country': 'town and country',
    'day-and-month': 'day and month',
    firm: 'firm only',
  } satisfies Record<Part, string>,
  emphasis: 'Stands out',
  emphases: { plain: 'plain', strong: 'strong', quiet: 'quiet' } satisfies Record<Emphasis, string>,
  gap: 'A gap before',
  label: 'Label',
  labels: { shown: 'the record’s', none: 'none', own: 'own words' },
  everywhere: 'Everywhere',
  nowhere: 'Nowhere',
  up: 'Move up',
  down: 'Move down',
  addBelow: 'Add a line below',
  removeLine: 'Remove this line',
  close: 'Close',
  channels: 'Channels',
  channelsOf: (title: string) => `Channels of ${title}`,

  addLine: 'Add a line',
  addLineHint: 'Type or paste a phone, a link, an address …',
  addLineNote: 'Stands on this card only, until you adopt it into the record.',
  recognised: (kind: string) => `reads as: ${kind}`,
  severalLines: 'several lines, each with its kind',
  usual: (start: string) => `Usual for ${start}:`,

  clash: (theirs: string, mine: string) => `Somebody else has set this to “${theirs}”. You had “${mine}”.`,
  clashBlock: (block: string) => `Somebody else has changed “${block}” meanwhile. Theirs stands here.`,
  clashGone: (mine: string) => `This line is gone. You had “${mine}”.`,
  keepTheirs: 'keep theirs',
  putMine: 'put mine back',
  gone: 'This card is gone: it, or its record, was deleted. What you see is all that is left of it; copy what you need.',
  yes: 'ticked',
  no: 'not ticked',

  specimenOf: (channel: Channel) => `Specimen: ${CHANNEL_WORDS[channel]}`,
  showIn: 'Language of the specimen',
  pageNote: '340 px wide, real output',
  codeNote: (mm: number) => `${mm} mm, real size`,
  tagNote: 'NDEF, real bytes',
  live: 'Live: a link',
  frozen: 'Frozen: a copy',
  symbolIs: (version: number, modules: number, level: string, moduleMm: string) =>
    `Version ${version}, ${modules} modules a side, level ${level}, ${moduleMm} mm a module`,
  tagRecords: ['Link', 'Contact'],
  tagFits: (bytes: number, fits: readonly number[], not: readonly number[]) =>
    [
      `${bytes} bytes`,
      ...(fits.length > 0 ? [`fit a tag of ${OR.format(fits.map(String))}`] : []),
      ...(not.length > 0 ? [`are too much for one of ${OR.format(not.map(String))}`] : []),
    ].join(fits.length > 0 && not.length > 0 ? ', ' : ' ') + '.',
  liveNote: 'Shows what the page shows; whoever scans it sees today’s card.',
  fileNote: (version: string) => `vCard ${version}, real output`,
  versions: 'Version',
  served: 'recipients get this one',
  download: 'Download',
  warnings: (count: number) =>
    count === 1 ? '1 address book family treats it differently' : `${count} things that families of address books do`,
  warning: (family: string, finding: string, source: string) => `Some ${family} ${finding} (${source}).`,
  proven: 'Proven.',
  proofFails: 'Proof fails.',
  readingBack: 'Reading it back …',
  pageFrame: 'The page as a recipient sees it',
  showAs: 'Show as',
  inAddressBook: 'In an address book',
  source: 'Source',
  sourceOf: 'Source of the contact file',
  photoBytes: (bytes: string) => `… ${bytes} bytes of photo …`,
};

/** Publishing and what it changes. */
export const PUBLISH = {
  isLive: (revision: number) => `Revision ${revision} is live`,
  anybodySees: 'Anybody with the address sees this card now:',
  backToTable: 'Back to the table',
  again: 'Publish the changes',
  first: 'Publish this card',
  nothingChanged: (revision: number) => `Nothing has changed since revision ${revision}.`,
  noLabel: 'a line without label',
  language: 'Language of the page',
  languageOfRecipient: 'the recipient’s own, if we have it',
  languageNote: 'Our own words only; what you typed stays as it is.',
  address: 'Short address',
  addressAgain: 'A new address is added; the earlier one keeps leading here.',
  addressFirst: 'It is yours for good and never given to anybody else.',
  notYet: 'Not yet',
  busy: 'Proving and publishing …',

  changed: {
    name: 'Name',
    language: 'Language',
    order: 'Order',
    photo: 'Photo',
    film: 'Film',
    opens: 'What opens first',
    isNew: 'is new',
    isGone: 'is gone',
    alsoIn: 'the card can be had in it now',
    noLongerIn: 'the card can no longer be had in it',
    becomes: (value: string) => `becomes ${value}`,
    followsDevice: 'follows the recipient’s device',
    newOn: (on: Channel[]) => `new on ${channels(on)}`,
    alsoOn: (on: Channel[]) => `also on ${channels(on)}`,
    noLongerOn: (on: Channel[]) => `no longer on ${channels(on)}`,
    saysElse: 'says something else',
    wasLabelled: (label: string) => `was labelled “${label}”`,
    hasLabel: 'has a label now',
    looksElse: 'stands out differently',
    goesNowhere: 'goes nowhere any more',
    isAnother: 'is another',
  },
};
