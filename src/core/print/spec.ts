import { z } from 'zod';
import { LIMITS } from '@/core/limits';
import { MOST_PLACED, PlacedSchema } from './artwork';
import { SheetSchema } from './sheet';
import { isOwnSize, SIZE_NAMES, sizeOf, type PrintSize, type SizeName } from './sizes';

/** What the back of a card carries: the living code with a sentence, the lines (the front then says who it is), or nothing. */
export const BACKS = ['code', 'lines', 'none'] as const;
/** Words beside a code, in letters. */
export const SENTENCE_LETTERS = 80;
/** From how far a sign is read, in millimetres. */
export const DISTANCES = { least: 250, most: 5_000 } as const;

/** How a printed piece is made up. Lengths in millimetres. */
export const PieceSchema = z.object({
  size: z.enum(SIZE_NAMES),
  form: z.enum(['lying', 'standing']),
  back: z.enum(BACKS),
  /** Beside the code; empty for our own words in the card's language. */
  sentence: z.string().max(SENTENCE_LETTERS),
  /** Width of the code, margin in; null for as large as the size suggests. Of a sign the distance that it is read from decides. */
  codeMm: z.number().min(5).max(300).nullable(),
  distanceMm: z.number().min(DISTANCES.least).max(DISTANCES.most),
  /** Crop marks outside the bleed. */
  marks: z.boolean(),
  /** Trimmed size of a card or a label by its measures; of other sizes it is not asked. */
  own: z
    .object({ width: z.number().min(15).max(300), height: z.number().min(15).max(300) })
    .default({ width: 70, height: 37 }),
  /** Several on a sheet of an office printer; null for one a page, as print shops want it. */
  sheet: SheetSchema.nullable().default(null),
  /** What lies below: the look of the card, or an own finished design, if one was given. */
  ground: z.enum(['look', 'artwork']).default('look'),
  /** What was put on that by hand: the code, and lines. */
  placed: z
    .array(PlacedSchema)
    .max(MOST_PLACED)
    .refine((placed) => placed.filter(({ kind }) => kind === 'code').length <= 1)
    .default([]),
  /** A design without bleed is made so much larger that it has. */
  enlarged: z.boolean().default(false),
});
export type Piece = z.infer<typeof PieceSchema>;

export const FIRST_PIECE: Piece = {
  ...{ size: '85x55', form: 'lying', back: 'code', sentence: '' },
  ...{ codeMm: null, distanceMm: 1_000, marks: true, sheet: null, own: { width: 70, height: 37 } },
  ...{ ground: 'look', placed: [], enlarged: false },
};

/** Copies that are printed: on a day, so many, where. */
export const RunSchema = z.object({
  printedOn: z.iso.date(),
  copies: z.number().int().min(1).max(1_000_000),
  place: z.string().max(LIMITS.placement),
});

/** A size as it lies or stands. */
export function trimOf({
  size,
  form,
  own,
}: Pick<Piece, 'size' | 'form'> & Partial<Pick<Piece, 'own'>>): Pick<PrintSize, 'width' | 'height'> {
  const { width, height } = isOwnSize(size) && own ? own : sizeOf(size);
  return form === 'lying' ? { width, height } : { width: height, height: width };
}

/** A piece in another size: what is cut by its measures begins as large as what it was of the same stock, or as its own example. */
export function inSize(piece: Piece, size: SizeName): Piece {
  const next = { ...piece, size, codeMm: null };
  if (!isOwnSize(size)) return next;
  const from = sizeOf(piece.size).stock === sizeOf(size).stock ? trimOf({ ...piece, form: 'lying' }) : sizeOf(size);
  return { ...next, own: { width: from.width, height: from.height } };
}

/** Whether a piece has lines of the card on it, and not only who it is. */
export const carriesLines = ({ size }: Pick<Piece, 'size'>): boolean => sizeOf(size).stock === 'card';
