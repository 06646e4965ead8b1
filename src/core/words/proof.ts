import { plural } from '@/core/language';

/** What proofs say: the sentence first, the figure in it. Bytes are written by {@link figure}. */
export const PROOF = {
  unreadable: 'An independent reader cannot read the file.',
  tickedLines: (read: number, of: number) => `${read} of ${of} ticked lines read back.`,
  missing: (lines: string[]) => `Not found: ${lines.join(', ')}.`,
  noneOf: (unticked: number) => `None of ${unticked} unticked values in it.`,
  stillThere: (unticked: number) => `${unticked} unticked values still appear in it.`,
  photoTells: 'The photo carries data about itself that may tell where and when it was taken.',
  photoTellsNothing: 'The photo carries no data about itself.',
  more: (properties: string[]) => `Holds what no line asks for: ${properties.join(', ')}.`,
  noMore: 'Holds nothing else.',
  inTheNote: (lines: string[]) => `${lines.join(', ')}: in the note, since this version has no property for it.`,
  nowhere: (lines: string[]) => `This version cannot say ${lines.join(', ')}.`,
  sizes: (bytes: number, photo: number) =>
    photo > 0 ? `${figure(bytes)} B, ${figure(photo)} of them photo.` : `${figure(bytes)} B.`,
  ourReader: 'Read back by our own reader: the independent one does not read version 2.1.',
  codeRead: (read: number, of: number) => `An independent reader read ${read} of ${of} sizes of this code.`,
  tagRead: (records: number) => (records === 1 ? 'One record read back.' : `${records} records read back.`),
  tagUnreadable: 'The bytes do not read back as written.',
  linkFirst: (first: boolean) =>
    first
      ? 'The link comes first, so every phone finds it.'
      : 'The link does not come first: some phones read nothing.',
  tagRoom: (bytes: number, room: number) => `${figure(bytes)} of ${figure(room)} B`,
  blocks: (said: number, of: number) => (of === 0 ? 'No blocks.' : `${said} of ${of} texts of blocks read back.`),
  contrast: (read: number, of: number, worst: number, needs: number) =>
    `${read} of ${of} pairs of colours read; the weakest has ${worst.toFixed(1)} to 1 where ${needs} is needed.`,
  picturesRight: (count: number) =>
    count === 0
      ? 'No picture leaves, and none is ticked.'
      : `${count} of ${count} ticked pictures leave, and no other.`,
  pictureUnticked: 'A picture leaves that is not ticked for this channel.',
  pictureMissing: 'A ticked picture does not leave.',
  noOtherHost: 'Loads nothing from other sites.',
  otherHosts: (times: number) =>
    plural(times, { one: 'Loads # thing from another site.', other: 'Loads # things from other sites.' }),
  bytesOf: (bytes: number, most: number) => `${figure(bytes)} of ${figure(most)} B`,
};

/** A number as the studio writes it: groups of three. */
export const figure = (number: number): string => number.toLocaleString('en-GB');

/** Families of address books, as warnings speak of them. */
export const ADDRESS_BOOKS = {
  phones: 'address books of phones',
  old: 'address books of before 2005 and of cars',
  office: 'address books of office mail programs',
};
export const FROM_MEMORY = 'from memory';
export const COMMON_PRACTICE = 'common practice, no published source';
export const FAMILY_WARNINGS = {
  photoLarge: 'drop a photo above about 200 kilobytes',
  longNote: 'show a note at each call: keep it to one line',
  noLabels: 'show “Phone” or “Web” instead of labels of one’s own',
  oneAddress: 'keep at most two addresses and show the others nowhere',
  version4: 'open version 3.0 only',
  utf8: 'show letters beyond ASCII as two each unless the file says CHARSET, as 2.1 does',
};
