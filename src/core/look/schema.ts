import { z } from 'zod';
import { PictureSchema } from '@/core/record';
import { LIMITS } from '@/core/limits';
import { FAMILY_NAMES } from './families';
import { MOST_INKS, SPOT_NAME, type Ink } from './ink';
import { LAYOUT_NAMES } from './layouts';
import {
  CORNERS,
  LINE_SIZES,
  LINE_TONES,
  LOOK_PARTS,
  MOTIFS,
  PHOTO_SHAPES,
  RULES,
  SCALES,
  SIDES,
  type Ground,
  type LineLook,
  type Look,
} from './look';
import { MOOR, type Palette } from './palette';

// Apart from the functions over looks, since browsers run those and need no schema.

export const HexSchema = z
  .string()
  .regex(/^#[0-9a-f]{6}$/i)
  .transform((hex) => hex.toUpperCase());

const PercentSchema = z.number().int().min(0).max(100);

export const InksSchema: z.ZodType<Ink[]> = z
  .array(
    z.object({
      colour: HexSchema,
      cmyk: z.tuple([PercentSchema, PercentSchema, PercentSchema, PercentSchema]),
      spot: z.string().trim().regex(SPOT_NAME),
    }),
  )
  .max(MOST_INKS)
  .refine((inks) => new Set(inks.map(({ colour }) => colour)).size === inks.length);

export const PaletteSchema: z.ZodType<Palette> = z.object({
  sheet: HexSchema,
  ink: HexSchema,
  band: HexSchema,
  onBand: HexSchema,
  act: HexSchema,
  onAct: HexSchema,
});

const GroundSchema: z.ZodType<Ground> = z.discriminatedUnion('kind', [
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

const LineLookSchema: z.ZodType<LineLook> = z.object({
  size: z.enum(LINE_SIZES).default('normal'),
  heavy: z.boolean().default(false),
  tone: z.enum(LINE_TONES).default('ink'),
});

export const LookSchema: z.ZodType<Look> = z.object({
  layout: z.enum(LAYOUT_NAMES).default('trod'),
  palette: PaletteSchema.default(MOOR),
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
