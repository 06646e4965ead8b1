import { squeeze, type Composition } from '@/core/card';
import { CODE_RATIO } from '@/core/house';
import {
  LEAST_BLEED_MM,
  roomsOf,
  SMALL_TYPE,
  trimOf,
  type Artwork,
  type LaidPiece,
  type Lying,
  type Piece,
} from '@/core/print';
import { QUIET_ZONE } from '@/core/qr';
import { linesWanted } from './lines-wanted';
import type { Check } from './proof';

type Box = { x: number; y: number; width: number; height: number };

/** A design as it was read again, laid on its piece: its words, its letters' places in millimetres from the trim's top left. */
export type ReadArtwork = {
  artwork: Artwork;
  lying: Lying;
  text: string;
  letters: (Box & { points: number })[];
  /** Whether what lies just within the cut is white, as painted. */
  whiteEdges: boolean;
  /** Of each code on this side: how much the ground of its margin differs in itself, and its contrast with the code's modules (WCAG 2.2). */
  zones: { spread: number; contrast: number }[];
};

/** Ground that differs less in itself is even: a photograph's grain, the edge of a plate. */
const EVEN_RATIO = 1.6;

const DIGITS = /[+(]?\d[\d\s().\/-]{5,}\d/g;
const MAILS = /[\w.+-]+@[\w-]+(?:\.[\w-]+)+/g;
/** Of two numbers so many last digits are the same, or they are different ones: in front stand what a country adds and drops. */
const LAST_DIGITS = 8;

const digitsOf = (text: string): string => text.replace(/\D/g, '');
const sameNumber = (a: string, b: string): boolean =>
  Math.min(a.length, b.length) >= LAST_DIGITS && a.slice(-LAST_DIGITS) === b.slice(-LAST_DIGITS);

/** Numbers that a text says, as they are written there. */
export const numbersIn = (text: string): string[] =>
  (text.match(DIGITS) ?? []).map((each) => each.trim()).filter((each) => digitsOf(each).length >= LAST_DIGITS);

/** Whether a text says a value: letter by letter, or a number in whatever way it is written. */
export function says(text: string, value: string): boolean {
  if (squeeze(text).includes(squeeze(value))) return true;
  const [number] = numbersIn(value);
  return number !== undefined && numbersIn(text).some((each) => sameNumber(digitsOf(each), digitsOf(number)));
}

type Held = { composition: Composition; piece: Piece; laid: LaidPiece; withheld: string[] };

/** What is measured of a piece on somebody's own design besides what is measured of every piece. */
export function artworkChecks(sides: ReadArtwork[], held: Held): Check[] {
  const wanted = trimOf(held.piece);
  const off = sides.find(({ lying }) => !lying.right) ?? sides[0]!;
  const bare = sides.filter(({ lying }) => lying.bleedMm < LEAST_BLEED_MM);
  const short = bare.find(({ whiteEdges }) => !whiteEdges) ?? bare[0];
  const removed = [...new Set(sides.flatMap(({ artwork }) => artwork.removed))];
  return [
    {
      name: 'size of the design',
      passed: off.lying.right,
      finding: {
        ...{ code: 'ARTWORK_SIZE', right: off.lying.right },
        ...{ ...off.lying.made, wantedWidth: wanted.width, wantedHeight: wanted.height },
      },
    },
    {
      name: 'bleed of the design',
      passed: bare.every(({ whiteEdges }) => whiteEdges),
      finding: {
        ...{ code: 'ARTWORK_BLEED', least: LEAST_BLEED_MM, white: bare.every(({ whiteEdges }) => whiteEdges) },
        bleedMm: (short ?? sides[0]!).lying.bleedMm,
      },
    },
    linesCheck(sides, held),
    ...codeChecks(sides, held),
    ...typeChecks(sides, held),
    {
      name: 'what came along',
      passed: true,
      finding: { code: 'ARTWORK_CLEANED', removed },
      ...(removed.length > 0 ? { note: true as const } : {}),
    },
  ];
}

const NAME = 'Name';

/** The lines of the card held against the words of the design. */
function linesCheck(sides: ReadArtwork[], { composition, piece, laid, withheld }: Held): Check {
  const text = sides.map((side) => side.text).join('\n');
  const placed = [laid.front, ...(laid.back ? [laid.back] : [])]
    .flatMap(({ items }) => items.flatMap((item) => (item.kind === 'text' ? item.says : [])))
    .join('\n');
  const wanted = linesWanted(composition, 'print');
  const found = wanted.filter(([, value]) => says(text, value) || says(placed, value));
  const missing = wanted.filter((each) => !found.includes(each)).map(([title]) => title ?? NAME);
  const values = [...wanted.map(([, value]) => value), ...withheld];
  const foreign = [
    ...new Set([...numbersIn(text).filter((each) => /^[+(0]/.test(each)), ...(text.match(MAILS) ?? [])]),
  ].filter((each) => !values.some((value) => says(value, each)));
  const known = sides.every(({ artwork }) => artwork.text);
  const note = !known || missing.length > 0 || foreign.length > 0;
  return {
    name: 'lines of the design',
    passed: true,
    finding: {
      ...{ code: 'ARTWORK_LINES', known, read: found.length, of: wanted.length },
      ...{ missing: missing.slice(0, piece.placed.length + 12), foreign: foreign.slice(0, 6) },
    },
    ...(note ? { note: true as const } : {}),
  };
}

const meets = (a: Box, b: Box): boolean =>
  a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height;

function codeChecks(sides: ReadArtwork[], { piece, laid }: Held): Check[] {
  const { margin } = roomsOf(piece.size);
  const { width, height } = trimOf(piece);
  const faces = [laid.front, laid.back];
  const codes = faces.flatMap((face, at) =>
    (face?.items ?? [])
      .filter((item) => item.kind === 'code')
      .map((code, each) => ({ code, zone: sides[at]?.zones[each], plate: isPlated(piece) })),
  );
  const covered = sides.reduce((sum, { letters }, at) => {
    const placed = (laid.boxes ?? []).filter(
      (box, each) => box && piece.placed[each]!.side === (at === 0 ? 'front' : 'back'),
    );
    return sum + letters.filter((letter) => placed.some((box) => meets(letter, box!))).length;
  }, 0);
  return [
    ...codes.flatMap(({ code, zone, plate }): Check[] => {
      const module = code.width / code.drawing.width;
      const zoneMm = QUIET_ZONE * module;
      const nearestMm = Math.min(
        code.x + zoneMm,
        code.y + zoneMm,
        width - (code.x + code.width - zoneMm),
        height - (code.y + code.height - zoneMm),
      );
      // Its margin may reach into what words keep free, and not over the cut.
      const whole = Math.min(code.x, code.y, width - code.x - code.width, height - code.y - code.height) >= -0.01;
      const even = plate || (zone?.spread ?? 21) <= EVEN_RATIO;
      const contrast = zone?.contrast ?? 0;
      return [
        {
          name: 'margin of the code',
          passed: even && contrast >= CODE_RATIO,
          finding: { code: 'QUIET_ZONE', even, contrast, least: CODE_RATIO },
        },
        {
          name: 'place of the code',
          passed: whole && nearestMm >= margin - 0.01,
          finding: { code: 'CODE_WITHIN', nearestMm: whole ? nearestMm : Math.min(nearestMm, 0), safeMm: margin },
        },
      ];
    }),
    {
      name: 'covered words',
      passed: true,
      finding: { code: 'COVERED', letters: covered },
      ...(covered > 0 ? { note: true as const } : {}),
    },
  ];
}

const isPlated = ({ placed }: Piece): boolean => placed.some((each) => each.kind === 'code' && each.plate);

/** Type and place of the design's own words: they are whoever's who made it, and are told of. */
function typeChecks(sides: ReadArtwork[], { piece }: Held): Check[] {
  const { width, height } = trimOf(piece);
  const { margin } = roomsOf(piece.size);
  const letters = sides
    .flatMap((side) => side.letters)
    .filter((letter) => letter.points > 0 && meets(letter, { x: 0, y: 0, width, height }));
  if (letters.length === 0) return [];
  const points = Math.min(...letters.map((letter) => letter.points));
  const nearestMm = Math.min(
    ...letters.map(({ x, y, ...size }) => Math.min(x, y, width - x - size.width, height - y - size.height)),
  );
  return [
    {
      name: 'type of the design',
      passed: true,
      finding: { code: 'ARTWORK_TYPE', points, small: SMALL_TYPE.warn },
      ...(points < SMALL_TYPE.warn - 0.01 ? { note: true as const } : {}),
    },
    {
      name: 'words of the design near the cut',
      passed: true,
      finding: { code: 'ARTWORK_NEAR', nearestMm, safeMm: margin },
      ...(nearestMm < margin - 1 ? { note: true as const } : {}),
    },
  ];
}
