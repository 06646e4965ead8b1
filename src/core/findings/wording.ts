import { figure, plural } from '@/core/language';
import type { Caution, Finding } from './finding';

type Say<Code> = (found: Extract<Finding, { code: Code }>) => string;

const mm = (value: number): string => figure(Math.round(value * 10) / 10);

const notFound = (missing: (string | null)[]): string =>
  missing.length > 0 ? ` Not found: ${missing.map((title) => title ?? 'Name').join(', ')}.` : '';

/** Each finding as a person reads it: the sentence first, the figure in it. */
const SAID: { [Code in Finding['code']]: Say<Code> } = {
  UNREADABLE: () => 'An independent reader cannot read the file.',
  LINES_READ: ({ read, of, missing }) => `${read} of ${of} ticked lines read back.${notFound(missing)}`,
  UNTICKED: ({ still, of }) =>
    still === 0 ? `None of ${of} unticked values in it.` : `${still} unticked values still appear in it.`,
  NOTHING_ELSE: ({ more }) =>
    more.length === 0 ? 'Holds nothing else.' : `Holds what no line asks for: ${more.join(', ')}.`,
  PHOTO_TELLS: ({ tells }) =>
    tells
      ? 'The photo carries data about itself that may tell where and when it was taken.'
      : 'The photo carries no data about itself.',
  SIZE: ({ bytes, photo }) =>
    photo > 0 ? `${figure(bytes)} B, ${figure(photo)} of them photo.` : `${figure(bytes)} B.`,
  OUR_READER: () => 'Read back by our own reader: the independent one does not read version 2.1.',
  IN_THE_NOTE: ({ lines }) => `${lines.join(', ')}: in the note, since this version has no property for it.`,
  NOWHERE: ({ lines }) => `This version cannot say ${lines.join(', ')}.`,
  CODE_READ: ({ read, of }) => `An independent reader read ${read} of ${of} sizes of this code.`,
  TAG_READ: ({ records }) =>
    records === 0
      ? 'The bytes do not read back as written.'
      : plural(records, { one: 'One record read back.', other: '# records read back.' }),
  LINK_FIRST: ({ first }) =>
    first
      ? 'The link comes first, so every phone finds it.'
      : 'The link does not come first: some phones read nothing.',
  FITS: ({ bytes, room }) => `${figure(bytes)} B of the ${figure(room)} B that there is room for.`,
  BLOCKS_READ: ({ read, of }) => (of === 0 ? 'No blocks.' : `${read} of ${of} texts of blocks read back.`),
  CONTRAST: ({ read, of, worst, needs }) =>
    `${read} of ${of} pairs of colours read; the weakest has ${worst.toFixed(1)} to 1 where ${needs} is needed.`,
  PICTURES: ({ ticked, unticked, missing }) =>
    unticked > 0
      ? 'A picture leaves that is not ticked for this channel.'
      : missing > 0
        ? 'A ticked picture does not leave.'
        : ticked === 0
          ? 'No picture leaves, and none is ticked.'
          : `${ticked} of ${ticked} ticked pictures leave, and no other.`,
  OTHER_HOSTS: ({ times }) =>
    times === 0
      ? 'Loads nothing from other sites.'
      : plural(times, { one: 'Loads # thing from another site.', other: 'Loads # things from other sites.' }),
  WITHOUT_PICTURES: ({ read, of, missing }) =>
    `With pictures blocked ${read} of ${of} lines are there.${notFound(missing)}`,
  AS_TEXT: ({ read, of, missing }) => `As plain text ${read} of ${of} lines are there.${notFound(missing)}`,
  ENGINE: ({ strange, bare }) =>
    strange.length > 0
      ? `A word processor’s engine does not draw ${strange.join(', ')}.`
      : bare > 0
        ? plural(bare, { one: '# picture has no size or no text.', other: '# pictures have no size or no text.' })
        : 'A word processor’s engine draws all of it as it is meant.',
  ON_PAPER: ({ read, of, missing }) => `${read} of ${of} ticked lines stand on it.${notFound(missing)}`,
  PRINTED_WORDS: ({ read, of, missing }) => `${read} of ${of} texts are found in the file.${notFound(missing)}`,
  HAD_ROOM: ({ left, cut }) =>
    left.length > 0
      ? `No room for ${left.join(', ')}. Take another size, put the lines on the back, or untick some.`
      : cut
        ? 'A text has no room even in the smallest type. Take another size, or say it shorter.'
        : 'Everything has room.',
  PRINTED_CODE: ({ readers, of, placed, widthMm, moduleMm, leastMm }) =>
    !placed
      ? 'The code does not stand where it was put.'
      : readers < of
        ? `${readers} of ${of} readers read the code from where it is meant to be read. Make it larger.`
        : moduleMm < leastMm
          ? `The modules of the code are ${moduleMm.toFixed(2)} mm, too fine for print. Make it larger.`
          : `${readers} of ${of} readers read the code: ${widthMm.toFixed(0)} mm wide, its modules ${moduleMm.toFixed(2)} mm.`,
  TYPE: ({ points, small, least }) =>
    points < least
      ? `The smallest type has ${points.toFixed(1)} points, too small to read. Take another size, or fewer lines.`
      : points < small
        ? `The smallest type has ${points.toFixed(1)} points: small on paper.`
        : `The smallest type has ${points.toFixed(1)} points.`,
  FONTS: ({ embedded, of }) => `${embedded} of ${of} typefaces are in the file.`,
  RESOLUTION: ({ dpi, least }) =>
    dpi === 0
      ? 'No pictures on it.'
      : dpi < least
        ? `A picture has only ${dpi.toFixed(0)} pixels an inch and will look coarse. Give a larger one.`
        : `Pictures have ${dpi.toFixed(0)} pixels an inch or more.`,
  SAFE: ({ nearestMm, safeMm }) =>
    nearestMm < safeMm
      ? `Words come within ${nearestMm.toFixed(1)} mm of the cut.`
      : `Words keep ${nearestMm.toFixed(1)} mm from the cut.`,
  TRIM: ({ width, height, bleedMm, right }) =>
    right
      ? `Trimmed ${figure(width)} × ${figure(height)} mm, with ${figure(bleedMm)} mm of bleed.`
      : `The file says ${figure(width)} × ${figure(height)} mm with ${figure(bleedMm)} mm of bleed, which is not what was chosen.`,
  LETTERS: ({ missing }) =>
    missing.length === 0
      ? 'Our typefaces have every letter.'
      : `No typeface of ours has ${missing.join(' ')}. Say it otherwise on this card.`,
  SHEET: ({ found, of }) =>
    of === 0
      ? 'The paper has no room for one. Print one a page.'
      : found < of
        ? `${found} of ${of} copies stand on the sheets where they are cut.`
        : `All ${of} copies stand on the sheets where they are cut.`,
  CALL_CODE: ({ readers, of, placed, pixels }) =>
    !placed
      ? 'The code does not stand where it was put.'
      : readers < of
        ? `${readers} of ${of} readers read the code from a small, coarse picture of the call. Make it larger.`
        : `${readers} of ${of} readers read the code from a small, coarse picture of the call: ${pixels.toFixed(1)} pixels a module.`,
  SITTER: ({ free }) =>
    free ? 'The middle is free for you.' : 'Something stands where you sit. Take the other corner or a smaller code.',
  CALL_TYPE: ({ pixels, least }) =>
    pixels < least
      ? `The smallest type has ${pixels.toFixed(0)} pixels in a small picture of the call, too few to read.`
      : `The smallest type has ${pixels.toFixed(0)} pixels in a small picture of the call.`,
  CALL_ROOM: ({ cut }) => (cut ? 'A text has no room. Say it shorter, or untick some lines.' : 'Everything has room.'),
  LABELS: ({ fault }) =>
    fault === 'overlap'
      ? 'The labels would lie over each other: from one to the next must be at least a label’s size.'
      : 'The last label would lie beyond the paper. Measure the sheet again.',
  SPOTS: ({ found, missing }) =>
    `${found.length === 0 ? 'No spot colour in it.' : `Spot colours in it: ${found.join(', ')}.`}${missing.length > 0 ? ` Mixed into a gradient or picture, without a plate: ${missing.join(', ')}.` : ''}`,
  ARTWORK_SIZE: ({ width, height, wantedWidth, wantedHeight, right }) =>
    right
      ? `The design is made for ${mm(width)} × ${mm(height)} mm.`
      : `The design is made for ${mm(width)} × ${mm(height)} mm and not for ${mm(wantedWidth)} × ${mm(wantedHeight)}. Choose its size, or a card by its measures.`,
  ARTWORK_BLEED: ({ bleedMm, least, white }) =>
    bleedMm >= least
      ? `The design reaches ${mm(bleedMm)} mm beyond the cut.`
      : white
        ? 'The design ends at the cut; its edges are white, so nothing shows there.'
        : 'The design ends at the cut: where that is off by a hair, a white edge shows. Give one with 3 mm of bleed, or enlarge it.',
  ARTWORK_LINES: ({ known, read, of, missing, foreign }) =>
    `${known ? `${read} of ${of} ticked lines stand on it.${missing.length > 0 ? ` Not found: ${missing.join(', ')}. Place or untick them.` : ''}` : 'The design has no words that can be read: what it says is not known. Hold it against the ticks yourself.'}${foreign.length > 0 ? ` It says as well, and the ticks do not: ${foreign.join(', ')}.` : ''}`,
  QUIET_ZONE: ({ even, contrast, least }) =>
    !even
      ? 'Something of the design stands in the margin that the code needs. Move it, or put it on a plate.'
      : contrast < least
        ? `The code has a contrast of ${contrast.toFixed(1)} with what is below it, and needs ${least.toFixed(1)}. Put it on a plate.`
        : `The margin of the code is free, its contrast ${contrast.toFixed(1)}.`,
  COVERED: ({ letters }) =>
    letters === 0
      ? 'Nothing covers words of the design.'
      : plural(letters, { one: '# letter of the design is covered.', other: '# letters of the design are covered.' }),
  CODE_WITHIN: ({ nearestMm, safeMm }) =>
    nearestMm < safeMm
      ? `The code comes within ${nearestMm.toFixed(1)} mm of the cut. Move it further in.`
      : `The code keeps ${nearestMm.toFixed(1)} mm from the cut.`,
  ARTWORK_TYPE: ({ points, small }) =>
    points < small
      ? `The smallest type of the design has ${points.toFixed(1)} points: small on paper.`
      : `The smallest type of the design has ${points.toFixed(1)} points.`,
  ARTWORK_NEAR: ({ nearestMm, safeMm }) =>
    nearestMm < safeMm
      ? `Words of the design come within ${nearestMm.toFixed(1)} mm of the cut.`
      : `Words of the design keep ${nearestMm.toFixed(1)} mm from the cut.`,
  ARTWORK_CLEANED: ({ removed }) =>
    removed.length === 0
      ? 'The design brought nothing along that is not printed.'
      : `The design brought along what is not printed, and it was left out: ${removed.join(', ')}.`,
  PASS_FILES: ({ files, wrong }) =>
    wrong.length > 0
      ? `Not as it was signed: ${wrong.join(', ')}.`
      : `All of its ${figure(files)} files are as they were signed.`,
  PASS_SIGNED: ({ fits, known, holds, until }) =>
    !fits
      ? 'Its signature does not fit.'
      : !known
        ? 'Its certificate is for another kind of pass.'
        : holds
          ? `Signed; the certificate holds until ${until}.`
          : `The certificate that signs it ended on ${until}. Whoever runs Heathland has to renew it.`,
  PASS_CODE: ({ right, voided }) =>
    !right
      ? 'Its code does not hold the link of the card.'
      : voided
        ? 'It says that the card is no longer out, and shows no code.'
        : 'Its code holds the link of the card.',
  WORDED: ({ sentence }) => sentence,
};

/** The sentence of a finding. */
export const sayFinding = (found: Finding): string => (SAID[found.code] as Say<Finding['code']>)(found);

const FAMILIES: Record<Caution['family'], string> = {
  phones: 'address books of phones',
  old: 'address books of before 2005 and of cars',
  office: 'address books of office mail programs',
};
const FROM_MEMORY = 'from memory';
const COMMON_PRACTICE = 'common practice, no published source';

/** What each family does, and where that is known from. */
const CAUTIONS: Record<Caution['code'], [does: string, source: string]> = {
  LONG_NOTE: ['show a note at each call: keep it to one line', COMMON_PRACTICE],
  NO_LABELS: ['show “Phone” or “Web” instead of labels of one’s own', FROM_MEMORY],
  TWO_ADDRESSES: ['keep at most two addresses and show the others nowhere', FROM_MEMORY],
  NO_VERSION_4: ['open version 3.0 only', COMMON_PRACTICE],
  LETTERS: ['show letters beyond ASCII as two each unless the file says CHARSET, as 2.1 does', FROM_MEMORY],
  PHOTO_LARGE: ['drop a photo above about 200 kilobytes', FROM_MEMORY],
};

/** The sentence of a caution, and its source. */
export function sayCaution({ family, code }: Caution): { sentence: string; source: string } {
  const [does, source] = CAUTIONS[code];
  return { sentence: `Some ${FAMILIES[family]} ${does}.`, source };
}
