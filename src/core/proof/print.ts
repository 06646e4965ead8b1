import { squeeze, type Channel, type Composition } from '@/core/card';
import type { Face } from '@/core/face';
import { inkOf, TEXT_RATIO, type Ink } from '@/core/look';
import {
  BLEED_MM,
  carriesLines,
  LEAST_DPI,
  type LabelFault,
  SMALL_TYPE,
  trimOf,
  roomsOf,
  type LaidPiece,
  type Piece,
} from '@/core/print';
import { FINEST_MM, QUIET_ZONE } from '@/core/qr';
import { artworkChecks, says, type ReadArtwork } from './artwork';
import { linesWanted, titleOf } from './lines-wanted';
import { proofOf, type Check, type Proof } from './proof';

/** A code as readers found it on a printed side: the symbol without its margin, in millimetres from the trim's top left. */
export type PrintedCode = { text: string; x: number; y: number; width: number; modules: number; readers: number };

/** One side of a printed file as it was read back from its bytes. Lengths in millimetres. */
export type ReadSide = {
  trim: { width: number; height: number };
  bleedMm: number;
  /** What a reader of documents finds in it. */
  text: string;
  /** The smallest type in points; infinite without any. */
  smallestPt: number;
  /** How near words come to an edge of the trim. */
  nearestMm: number;
  /** Of each picture on it, pixels an inch. */
  dpi: number[];
  /** The contrast of each text with what lies around it (WCAG 2.2), as painted. */
  contrasts: number[];
  codes: PrintedCode[];
  /** Names of the spot colours that it has plates for. */
  spots: string[];
};

export type ReadPrint = { sides: ReadSide[]; fonts: { embedded: number; of: number } };

/** Readers that a printed code is given to. */
export const PRINT_READERS = 2;
/** A code that is read further from its place than that was moved, in millimetres. */
const MOVED_MM = 0.5;

/** Thin strokes are painted a little paler than they are printed: so much less than what WCAG 2.2, 1.4.3 asks of text is let pass. */
export const PAINTED_RATIO = TEXT_RATIO - 0.3;

export function found(code: 'ON_PAPER' | 'PRINTED_WORDS', wanted: [string | null, string][], said: string): Check {
  const missing = wanted.filter(([, value]) => !said.includes(squeeze(value))).map(([title]) => title);
  return {
    name: code === 'ON_PAPER' ? 'ticked lines' : 'words',
    passed: missing.length === 0,
    finding: { code, read: wanted.length - missing.length, of: wanted.length, missing },
  };
}

/** Values that no line asks for and a squeezed text says, letter by letter; or whatever text, as `tells` has it. */
export function untickedIn(
  said: string,
  withheld: string[],
  tells: (said: string, value: string) => boolean = (whole, value) => whole.includes(squeeze(value)),
): Check {
  const leaked = withheld.filter((value) => tells(said, value));
  return {
    name: 'unticked lines',
    passed: leaked.length === 0,
    finding: { code: 'UNTICKED', still: leaked.length, of: withheld.length },
  };
}

export type { ReadArtwork } from './artwork';
export { linesWanted } from './lines-wanted';

/** What a draft would say on paper: what is ticked for it and nothing else. `words` are those of its faces. */
export const provePrintedWords = (
  words: string,
  composition: Composition,
  withheld: string[],
  channel: Channel = 'print',
): Proof =>
  proofOf([found('ON_PAPER', linesWanted(composition, channel), squeeze(words)), untickedIn(squeeze(words), withheld)]);

type Held = {
  /** In the language that it is printed in. */
  composition: Composition;
  withheld: string[];
  piece: Piece;
  /** What was meant to be printed. */
  laid: LaidPiece;
  /** What its code holds. */
  link: string;
  /** What the house's colours are printed with. */
  inks: readonly Ink[];
  /** The sheets, where several go on one: as they were read, and where each side was put on them. */
  sheets?: { read: ReadPrint; places: SheetPlace[][]; fault: LabelFault | null };
  /** Somebody's own design below it, side by side, as it was read. */
  designs?: ReadArtwork[];
};

/** A side on a sheet: which one, and its trim's top left, in millimetres. */
export type SheetPlace = { face: Face; x: number; y: number };

export const textsOf = (face: Face): string[] => face.items.flatMap((item) => (item.kind === 'text' ? item.says : []));

/**
 * The proof of a printed piece, from the file's bytes: painted and read back, it says every ticked line and no other, its code is read where
 * it was put, from as far as it is meant for, and nothing about it is too small, too near the cut, or left to the printer.
 */
export function provePrint(read: ReadPrint, held: Held): Proof {
  const { composition, withheld, piece, laid, link, inks, sheets, designs } = held;
  const faces = [laid.front, ...(laid.back ? [laid.back] : [])];
  const said = squeeze(read.sides.map(({ text }) => text).join('\n'));
  // What goes out are the sheets, where there are such.
  const all = [read, ...(sheets ? [sheets.read] : [])].flatMap(({ sides }) => sides.map(({ text }) => text)).join('\n');
  const words = faces.flatMap(textsOf).map((text): [string, string] => [text.slice(0, 40), text]);
  const trim = trimOf(piece);
  const near = (a: number, b: number) => Math.abs(a - b) < 0.05;
  const right =
    read.sides.length === faces.length &&
    read.sides.every(
      ({ trim: { width, height }, bleedMm }) =>
        near(width, trim.width) && near(height, trim.height) && near(bleedMm, BLEED_MM),
    );
  const first = read.sides[0]?.trim ?? { width: 0, height: 0 };
  const points = Math.min(...read.sides.map(({ smallestPt }) => smallestPt));
  const nearestMm = Math.min(...read.sides.map((side) => side.nearestMm));
  // What is set by its first letter's edge reaches a hair over its place: half a millimetre of the margin stays free for that.
  const safeMm = roomsOf(piece.size).margin - 0.5;
  const coarsest = Math.min(...read.sides.flatMap(({ dpi }) => dpi));
  const contrasts = read.sides.flatMap((side) => side.contrasts);
  const reads = contrasts.filter((each) => each >= PAINTED_RATIO).length;
  const left = faces.flatMap(({ leftOut }) => leftOut);
  const labels = left
    .map((id) => composition.lines.find((line) => line.id === id))
    .flatMap((line) => (line ? titleOf(line) : []));
  const { fonts } = sheets?.read ?? read;
  const missing = [...new Set(faces.flatMap((face) => face.missing))].slice(0, 12);
  const cut = faces.some((face) => face.cut.length > 0);
  return proofOf([
    { name: 'room', passed: left.length === 0 && !cut, finding: { code: 'HAD_ROOM', left: labels, cut } },
    { name: 'letters', passed: missing.length === 0, finding: { code: 'LETTERS', missing } },
    ...codeChecks(read, faces, link),
    ...(sheets ? [sheetCheck(sheets, link)] : []),
    ...(designs ? artworkChecks(designs, { ...held, withheld }) : []),
    ...(carriesLines(piece) && !designs ? [found('ON_PAPER', linesWanted(composition, 'print'), said)] : []),
    found('PRINTED_WORDS', words, said),
    designs ? untickedIn(all, withheld, says) : untickedIn(squeeze(all), withheld),
    ...(points === Number.POSITIVE_INFINITY
      ? []
      : [
          {
            name: 'type',
            passed: points >= SMALL_TYPE.refuse - 0.01,
            finding: { code: 'TYPE' as const, points, small: SMALL_TYPE.warn, least: SMALL_TYPE.refuse },
            ...(points < SMALL_TYPE.warn - 0.01 ? { note: true as const } : {}),
          },
          {
            name: 'safe area',
            passed: nearestMm >= safeMm - 0.01,
            finding: { code: 'SAFE' as const, nearestMm, safeMm },
          },
          {
            name: 'contrast',
            passed: reads === contrasts.length,
            finding: {
              code: 'CONTRAST' as const,
              ...{ read: reads, of: contrasts.length, worst: Math.min(21, ...contrasts), needs: PAINTED_RATIO },
            },
          },
        ]),
    {
      name: 'trim and bleed',
      passed: right,
      finding: { code: 'TRIM', ...first, bleedMm: read.sides[0]?.bleedMm ?? 0, right },
    },
    {
      name: 'typefaces',
      passed: fonts.embedded === fonts.of,
      finding: { code: 'FONTS', ...fonts },
    },
    ...(designs ? [] : spotCheck(read, faces, inks)),
    {
      name: 'pictures',
      passed: true,
      finding: { code: 'RESOLUTION', dpi: Number.isFinite(coarsest) ? coarsest : 0, least: LEAST_DPI },
      ...(coarsest < LEAST_DPI ? { note: true as const } : {}),
    },
  ]);
}

/** Colours that stand on a face as they are, not mixed with another. */
const coloursOn = (face: Face): string[] =>
  face.items.flatMap((item) =>
    item.kind === 'picture' || item.kind === 'code' || item.kind === 'artwork' ? [] : item.colour,
  );

/** Each spot colour of the house that stands on a side has a plate in the file, and no other has. */
function spotCheck({ sides }: ReadPrint, faces: Face[], inks: readonly Ink[]): Check[] {
  const named = inks.filter(({ spot }) => spot);
  if (named.length === 0) return [];
  const of = (all: string[]) => [...new Set(all)].sort();
  const wanted = of(faces.flatMap(coloursOn).flatMap((colour) => inkOf(named, colour)?.spot ?? []));
  const found = of(sides.flatMap(({ spots }) => spots));
  // A gradient begins with its colour and is mixed all the way: it has no plate. A code may be drawn in one.
  const right = found.every((name) => named.some(({ spot }) => spot === name));
  return [
    {
      name: 'spot colours',
      passed: right,
      finding: { code: 'SPOTS', found, missing: wanted.filter((name) => !found.includes(name)) },
    },
  ];
}

/** Each code that was meant to be there: where it stands, what it holds, whether it is read. */
function codeChecks({ sides }: ReadPrint, faces: Face[], link: string): Check[] {
  return faces.flatMap((face, at) =>
    face.items.flatMap((item): Check[] => {
      if (item.kind !== 'code') return [];
      const module = item.width / item.drawing.width;
      const [x, y] = [item.x + QUIET_ZONE * module, item.y + QUIET_ZONE * module];
      const here = sides[at]?.codes.find((code) => code.text === link);
      const placed =
        here !== undefined &&
        Math.abs(here.x - x) <= MOVED_MM &&
        Math.abs(here.y - y) <= MOVED_MM &&
        Math.abs(here.width - (item.width - 2 * QUIET_ZONE * module)) <= 2 * MOVED_MM;
      const moduleMm = here ? here.width / here.modules : module;
      const readers = here?.readers ?? 0;
      return [
        {
          name: 'code',
          passed: placed && readers === PRINT_READERS && moduleMm >= FINEST_MM,
          finding: {
            ...{ code: 'PRINTED_CODE' as const, readers, of: PRINT_READERS, placed: here === undefined || placed },
            ...{ widthMm: item.width, moduleMm, leastMm: FINEST_MM },
          },
        },
      ];
    }),
  );
}

/** Each copy on its sheet: its code where it was put, its words as often as it is there. */
function sheetCheck({ read: { sides }, places, fault }: NonNullable<Held['sheets']>, link: string): Check {
  if (fault) return { name: 'sheet', passed: false, finding: { code: 'LABELS', fault } };
  const of = places.reduce((sum, each) => sum + each.length, 0);
  const found = places.reduce((sum, each, at) => sum + copiesOn(sides[at], each, link), 0);
  return { name: 'sheet', passed: of > 0 && found === of, finding: { code: 'SHEET', found, of } };
}

function copiesOn(side: ReadSide | undefined, places: SheetPlace[], link: string): number {
  if (!side) return 0;
  const said = squeeze(side.text);
  return places.filter(({ face, x, y }) => {
    const codes = face.items.filter((item) => item.kind === 'code');
    const placed = codes.every((item) => {
      const module = item.width / item.drawing.width;
      const [left, top] = [x + item.x + QUIET_ZONE * module, y + item.y + QUIET_ZONE * module];
      return side.codes.some(
        (code) => code.text === link && Math.abs(code.x - left) <= MOVED_MM && Math.abs(code.y - top) <= MOVED_MM,
      );
    });
    // A word is there as often as its side is.
    const copies = places.filter((each) => each.face === face).length;
    const told = textsOf(face).every((text) => said.split(squeeze(text)).length - 1 >= copies);
    return placed && told;
  }).length;
}
