import type { CardState, Channel } from '@/core/card/card';

export const CHANNEL_WORDS: Record<Channel, string> = { page: 'Page', file: 'Contact file' };

/** A channel inside a sentence. */
export const channelWord = (channel: Channel): string => CHANNEL_WORDS[channel].toLowerCase();

const channels = (on: Channel[]): string => on.map(channelWord).join(' and ');

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
  seeChannel: (channel: Channel) => `See what a recipient gets: ${channelWord(channel)}`,
  foot: (lines: number, nowhere: number) => `${lines} lines, ${nowhere} of them nowhere`,
  keys: 'Arrows move, Space ticks, Enter edits, Alt with an arrow moves the line, Ctrl Z undoes.',
  moveLine: (title: string) => `Move ${title}: drag, or Alt with an arrow`,
  labelOf: (title: string) => `Label of ${title}`,
  wordingOf: (title: string) => `Wording of ${title}`,
  noLabel: 'no label',
  withTheCard: 'with the card',
  differs: 'differs from record',
  revert: 'revert',
  backTo: (wording: string) => `Back to “${wording}”`,
  private: 'private',
  nameNote: 'Every card carries the name: a contact file needs one (RFC 6350, 6.2.1)',
  nameLocked: (channel: Channel) => `Always on ${channelWord(channel)}: a contact file needs a name`,
  tick: (title: string, channel: Channel) => `${title} on ${channelWord(channel)}`,

  specimenOf: (channel: Channel) => `Specimen: ${CHANNEL_WORDS[channel]}`,
  pageNote: '340 px wide, real output',
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
    becomes: (value: string) => `becomes ${value}`,
    followsDevice: 'follows the recipient’s device',
    newOn: (on: Channel[]) => `new on ${channels(on)}`,
    alsoOn: (on: Channel[]) => `also on ${channels(on)}`,
    noLongerOn: (on: Channel[]) => `no longer on ${channels(on)}`,
    saysElse: 'says something else',
    wasLabelled: (label: string) => `was labelled “${label}”`,
    hasLabel: 'has a label now',
    goesNowhere: 'goes nowhere any more',
    isAnother: 'is another',
  },
};
