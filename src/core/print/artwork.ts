import { z } from 'zod';
import { linesOn, type Composition } from '@/core/card';
import { oneLine, type Face, type FaceItem, type SetText, type Typesetter } from '@/core/face';
import type { Language } from '@/core/language';
import { coloursOf } from '@/core/look';
import type { Drawing } from '@/core/qr';
import { writtenName } from '@/core/record';
import { BLEED_MM, isOwnSize, POINTS_PER_MM, PRINT_SIZES, SMALL_TYPE, type SizeName } from './sizes';

/** Somebody's own finished design, one side of it, as it was taken in. A picture has no measures but its pixels. */
export const ArtworkSchema = z.object({
  kind: z.enum(['pdf', 'picture']),
  /** Of a document in millimetres, of a picture in pixels. */
  width: z.number().positive(),
  height: z.number().positive(),
  /** Where a document says that it is cut, in millimetres from its top left; null where it does not say. */
  trim: z.object({ x: z.number(), y: z.number(), width: z.number(), height: z.number() }).nullable(),
  /** Whether there are words in it that a reader of documents finds: outlines and pictures of words are none. */
  text: z.boolean(),
  /** What it brought along and was not taken in. */
  removed: z.array(z.enum(['script', 'form', 'files', 'notes'])),
});
export type Artwork = z.infer<typeof ArtworkSchema>;
export type Artworks = { front: Artwork; back: Artwork | null };
export const SIDES = ['front', 'back'] as const;
export type SideName = (typeof SIDES)[number];

const At = { side: z.enum(SIDES), x: z.number().min(-50).max(500), y: z.number().min(-50).max(500) };

/** What is placed on an artwork by hand: places in millimetres from the trim's top left. */
export const PlacedSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('code'), ...At, widthMm: z.number().min(5).max(300), plate: z.boolean() }),
  z.object({
    kind: z.literal('line'),
    ...At,
    /** The id of a line, or `name`. */
    line: z.string().max(80),
    widthMm: z.number().min(5).max(420),
    points: z.number().min(SMALL_TYPE.refuse).max(96),
    colour: z.string().regex(/^#[0-9A-F]{6}$/i),
    heavy: z.boolean(),
    align: z.enum(['left', 'middle', 'right']),
  }),
]);
export type Placed = z.infer<typeof PlacedSchema>;
export type PlacedLine = Extract<Placed, { kind: 'line' }>;
/** So many things are placed on a piece. */
export const MOST_PLACED = 24;

type Size = { width: number; height: number };
type Box = { x: number; y: number } & Size;

/** A document's trim differs from a size by less than this, in millimetres, or is another size. */
const SAME_MM = 1;
/** Bleed below this is none: the cut is off by as much (common practice, no published source). */
export const LEAST_BLEED_MM = 2;
/** Proportions of a picture that differ by less are those of a size. */
const SAME_SHARE = 0.02;

/** How an artwork lies on a trimmed size: its whole as a box from the trim's top left, the size that it is made for, the bleed that it has. Millimetres. */
export type Lying = { box: Box; made: Size; bleedMm: number; right: boolean };

const near = (a: number, b: number, by: number) => Math.abs(a - b) <= by;
const sized = (a: Size, b: Size) => near(a.width, b.width, SAME_MM) && near(a.height, b.height, SAME_MM);

/** Where a document is cut: as it says, or by what is left around a size that it would have with the same bleed on all sides. */
function trimIn({ width, height, trim }: Artwork, wanted: Size): Box {
  if (trim && !(near(trim.width, width, 0.1) && near(trim.height, height, 0.1))) return trim;
  const around = (width - wanted.width) / 2;
  const even = near(around, (height - wanted.height) / 2, SAME_MM / 2) && around >= 1 && around <= 10;
  return even ? { x: around, y: around, ...wanted } : { x: 0, y: 0, width, height };
}

/** Lays an artwork on a trimmed size; `enlarged`, what has no bleed is made so much larger that it has. */
export function lyingOn(artwork: Artwork, wanted: Size, enlarged: boolean): Lying {
  const over = { width: wanted.width + 2 * BLEED_MM, height: wanted.height + 2 * BLEED_MM };
  const centred = ({ width, height }: Size): Box => ({
    ...{ x: (wanted.width - width) / 2, y: (wanted.height - height) / 2 },
    ...{ width, height },
  });
  const covering = ({ width, height }: Size, whole: Size): Size => {
    const share = Math.max(whole.width / width, whole.height / height);
    return { width: width * share, height: height * share };
  };
  if (artwork.kind === 'picture') {
    const off = (whole: Size) => Math.abs(Math.log(artwork.width / artwork.height / (whole.width / whole.height)));
    const bleeds = off(over) < off(wanted);
    const right = off(bleeds ? over : wanted) <= SAME_SHARE;
    const box = centred(covering(artwork, bleeds || enlarged ? over : wanted));
    const made = { width: wanted.width, height: (wanted.width * artwork.height) / artwork.width };
    return { box, made: right ? wanted : made, bleedMm: bleeds || enlarged ? BLEED_MM : 0, right };
  }
  const trim = trimIn(artwork, wanted);
  const { x, y, width, height } = trim;
  const bleedMm = Math.max(0, Math.min(x, y, artwork.width - x - width, artwork.height - y - height));
  const right = sized(trim, wanted);
  const made = { width, height };
  if (enlarged && bleedMm < LEAST_BLEED_MM) {
    const share = covering(made, over).width / width;
    const box = {
      ...{ x: wanted.width / 2 - (x + width / 2) * share, y: wanted.height / 2 - (y + height / 2) * share },
      ...{ width: artwork.width * share, height: artwork.height * share },
    };
    return { box, made, bleedMm: BLEED_MM, right };
  }
  const box = {
    ...{ x: (wanted.width - width) / 2 - x, y: (wanted.height - height) / 2 - y },
    ...{ width: artwork.width, height: artwork.height },
  };
  return { box, made, bleedMm, right };
}

/** The size that an artwork is made for, lying or standing, if it is one that we have; a picture may have the proportions of several. */
export function sizeFor(artwork: Artwork): { size: SizeName; form: 'lying' | 'standing' } | null {
  if (artwork.kind === 'picture') return null;
  let best: { size: SizeName; form: 'lying' | 'standing'; off: number } | null = null;
  for (const [size, { width, height }] of Object.entries(PRINT_SIZES) as [SizeName, Size][])
    for (const form of ['lying', 'standing'] as const) {
      const wanted = form === 'lying' ? { width, height } : { width: height, height: width };
      const { right, made, bleedMm } = lyingOn(artwork, wanted, false);
      if (isOwnSize(size) || !right) continue;
      // Of two that fit, the one with bleed, and then the nearer one.
      const bare = bleedMm < LEAST_BLEED_MM ? SAME_MM * 4 : 0;
      const off = bare + Math.abs(made.width - wanted.width) + Math.abs(made.height - wanted.height);
      if (!best || off < best.off) best = { size, form, off };
    }
  return best && { size: best.size, form: best.form };
}

/** The code where nobody has put it yet: in the corner that is lower and further right, on the back where there is one. */
export function firstPlaced({ back }: Artworks, trim: Size, margin: number): Placed[] {
  const widthMm = Math.min(25, trim.width - 2 * margin, trim.height - 2 * margin);
  const place = { x: trim.width - margin - widthMm, y: trim.height - margin - widthMm };
  return [{ kind: 'code', side: back ? 'back' : 'front', ...place, widthMm, plate: true }];
}

/** What a card gives out on paper, line by line, by their titles: what may be placed. */
export function linesToPlace(
  composition: Composition,
  language: Language,
): { line: string; title: string; value: string }[] {
  const pictures = ['photo', 'logo'];
  const lines = linesOn(composition, 'print').filter(({ detail }) => !pictures.includes(detail.kind));
  return [
    { line: 'name', title: '', value: writtenName(composition.name) },
    ...lines.map((line) => ({
      ...{ line: line.id, title: line.label },
      value: oneLine(line, language),
    })),
  ];
}

export type ArtworkOrder = {
  composition: Composition;
  language: Language;
  artworks: Artworks;
  placed: Placed[];
  enlarged: boolean;
  trim: Size;
  code: Drawing;
};

/** Both sides of a piece on its artwork, and the boxes of what was placed, by its place in the list; null of a line that is not on paper any more. */
export type LaidArtwork = { front: Face; back: Face | null; boxes: (Box | null)[] };

/** Lays out a piece on somebody's own artwork: nothing stands on it but that, the code and the lines that were placed. */
export function layArtwork(order: ArtworkOrder, typesetter: Typesetter): LaidArtwork {
  const { artworks, placed, trim, enlarged } = order;
  const boxes: (Box | null)[] = placed.map(() => null);
  const lines = linesToPlace(order.composition, order.language);
  const faceOf = (side: SideName, artwork: Artwork): Face => {
    const { box } = lyingOn(artwork, trim, enlarged);
    const items: FaceItem[] = [
      { kind: 'sheet', x: 0, y: 0, ...trim, colour: '#FFFFFF' },
      { kind: 'artwork', ...box },
    ];
    const set: SetText[] = [];
    const cut: string[] = [];
    placed.forEach((each, at) => {
      if (each.side !== side) return;
      if (each.kind === 'code') {
        const height = (each.widthMm * order.code.height) / order.code.width;
        const place = { x: each.x, y: each.y, width: each.widthMm, height };
        boxes[at] = place;
        if (each.plate) items.push({ kind: 'sheet', ...place, colour: order.code.ground ?? '#FFFFFF' });
        items.push({ kind: 'code', ...place, drawing: order.code });
        return;
      }
      const value = lines.find(({ line }) => line === each.line)?.value;
      if (!value) return;
      const text = setLine(value, each, order, typesetter);
      set.push(text);
      if (text.cut) cut.push(each.line);
      const share = { left: 0, middle: 0.5, right: 1 }[each.align];
      const shifts = text.widths.map((width) => (each.widthMm - width) * share);
      boxes[at] = { x: each.x, y: each.y, width: each.widthMm, height: text.height };
      items.push({ kind: 'text', x: each.x, y: each.y, text, shifts, colour: each.colour, says: value });
    });
    return {
      ...{ ...trim, items, leftOut: [], cut },
      smallestType: Math.min(...set.map(({ size }) => size), Number.POSITIVE_INFINITY),
      missing: [...new Set(set.flatMap(({ missing }) => missing))],
    };
  };
  return { front: faceOf('front', artworks.front), back: artworks.back && faceOf('back', artworks.back), boxes };
}

/** A line in its type: of several lines at most, and never smaller than it was asked for. */
const setLine = (
  value: string,
  { points, widthMm, heavy }: PlacedLine,
  { composition }: ArtworkOrder,
  typesetter: Typesetter,
) =>
  typesetter.set(value, {
    ...{ family: composition.look.text, weight: heavy ? 'heavy' : 'plain', size: points / POINTS_PER_MM },
    ...{ width: widthMm, most: 3 },
  });

/** Colours that a placed line is offered: black, white and those of the look. */
export function lineColours({ look }: Composition): string[] {
  const { band, accent, ink } = coloursOf(look.palette);
  return [...new Set(['#000000', '#FFFFFF', band, accent, ink].map((each) => each.toUpperCase()))];
}
