import { z } from 'zod';
import { LIMITS } from '@/core/limits';
import { PictureSchema } from '@/core/card/picture';
import { FAMILY_NAMES } from './families';
import { LAYOUT_NAMES } from './layouts';
import { contrast, mix } from './contrast';
import { HexSchema, PALETTES, PaletteSchema, TEXT_RATIO, type Palette } from './palette';

export const SCALES = ['small', 'normal', 'large'] as const;
export const CORNERS = ['square', 'eased', 'round'] as const;
export const RULES = ['none', 'hair', 'bold'] as const;
export const GROUNDS = ['plain', 'gradient', 'pattern', 'picture'] as const;
export const MOTIFS = ['furrows', 'dots', 'weave'] as const;
export const PHOTO_SHAPES = ['round', 'eased', 'square'] as const;
export const SIDES = ['start', 'end'] as const;
export const LINE_SIZES = ['small', 'normal', 'large'] as const;
export const LINE_TONES = ['ink', 'soft', 'accent'] as const;

/** What the band shows. A gradient and a pattern go from the band's colour to `to`; over a picture the band's colour lies as a veil. */
export const GroundSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('plain') }),
  z.object({ kind: z.literal('gradient'), to: HexSchema, angle: z.number().int().min(0).max(359).default(160) }),
  z.object({ kind: z.literal('pattern'), motif: z.enum(MOTIFS), to: HexSchema }),
  z.object({
    kind: z.literal('picture'),
    picture: PictureSchema,
    /** How much of the band's colour lies over it, 0 to 1. */
    veil: z.number().min(0).max(1),
    /** Its darkest and lightest pixel without the veil, as measured when it was given. */
    darkest: HexSchema,
    lightest: HexSchema,
  }),
]);
export type Ground = z.infer<typeof GroundSchema>;

/** The parts of a look that a house style can give and lock. */
export const LOOK_PARTS = ['layout', 'palette', 'type', 'shape', 'ground', 'photo'] as const;
export type LookPart = (typeof LOOK_PARTS)[number];

const LineLookSchema = z.object({
  size: z.enum(LINE_SIZES).default('normal'),
  heavy: z.boolean().default(false),
  tone: z.enum(LINE_TONES).default('ink'),
});
export type LineLook = z.infer<typeof LineLookSchema>;

/** How a card is dressed. `lines` says it of single lines, by their id. */
export const LookSchema = z.object({
  layout: z.enum(LAYOUT_NAMES).default('trod'),
  palette: PaletteSchema.default(PALETTES.moor),
  title: z.enum(FAMILY_NAMES).default('literata'),
  text: z.enum(FAMILY_NAMES).default('atkinson'),
  scale: z.enum(SCALES).default('normal'),
  corners: z.enum(CORNERS).default('eased'),
  rules: z.enum(RULES).default('hair'),
  ground: GroundSchema.default({ kind: 'plain' }),
  photo: z
    .object({
      shape: z.enum(PHOTO_SHAPES).default('round'),
      side: z.enum(SIDES).default('start'),
      share: z.enum(SCALES).default('normal'),
    })
    .default({ shape: 'round', side: 'start', share: 'normal' }),
  /** Whether the page follows the night setting of the recipient's phone. */
  night: z.boolean().default(true),
  lines: z
    .record(z.string().max(40), LineLookSchema)
    .refine((lines) => Object.keys(lines).length <= LIMITS.lines)
    .default({}),
  /** The parts taken from the house style, and the locked parts that somebody who may has given the card all the same. */
  follows: z.array(z.enum(LOOK_PARTS)).max(LOOK_PARTS.length).default([]),
  overrides: z.array(z.enum(LOOK_PARTS)).max(LOOK_PARTS.length).default([]),
  /** Lines and blocks of the house style that the card leaves out, as far as they are not locked. */
  hides: z
    .array(z.string().max(40))
    .max(LIMITS.houseLines + LIMITS.houseBlocks)
    .default([]),
});
export type Look = z.infer<typeof LookSchema>;
export const FIRST_LOOK: Look = LookSchema.parse({});

/** The colours that a name on the band really stands on: see {@link pairsOf}. */
export function groundsOf({ palette: { band }, ground }: Pick<Look, 'palette' | 'ground'>): string[] {
  if (ground.kind === 'plain') return [band];
  // A gradient is no straight line in luminance: it is measured on its way.
  if (ground.kind === 'gradient') return Array.from({ length: 9 }, (_, at) => mix(band, ground.to, at / 8));
  if (ground.kind === 'pattern') return [band, ground.to];
  return [mix(ground.darkest, band, ground.veil), mix(ground.lightest, band, ground.veil)];
}

export const usesAccent = ({ lines }: Look): boolean => Object.values(lines).some(({ tone }) => tone === 'accent');

/** The least veil, in steps of a twentieth, with which a name reads everywhere on a picture; 1 where none does. */
export function leastVeil(
  { band, onBand }: Palette,
  { darkest, lightest }: { darkest: string; lightest: string },
): number {
  const reads = (veil: number) =>
    [darkest, lightest].every((pixel) => contrast(onBand, mix(pixel, band, veil)) >= TEXT_RATIO);
  return Array.from({ length: 20 }, (_, step) => step / 20).find(reads) ?? 1;
}
