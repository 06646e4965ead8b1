import { z } from 'zod';
import { BlockSchema } from '@/core/card';
import { PictureSchema } from '@/core/record';
import { LIMITS } from '@/core/limits';
import { FIRST_LOOK, HexSchema, InksSchema, LAYOUT_NAMES, LookSchema } from '@/core/look';
import { FINDER_SHAPES, MODULE_SHAPES, STYLE_BOUNDS } from '@/core/qr';
import { DetailSchema } from '@/core/record';
import { HouseSignatureSchema } from '@/core/signature';
import { isOfficeLine, OFFICE_KINDS, OFFICE_SLOTS, officeLine } from './office';
import { OWNABLE } from './owned-kinds';
import { codeReads, HOUSE_BLOCKS, HOUSE_ID, LOCKABLE } from './style';

// Apart from the functions over house styles, since browsers run those and need no schema.

const HouseId = z.string().regex(/^house-[a-z0-9-]{1,34}$/);

const HouseLineSchema = z
  .object({
    id: HouseId,
    label: z.string().max(LIMITS.label),
    detail: DetailSchema,
    page: z.boolean(),
    file: z.boolean(),
  })
  .refine(({ id, detail }) => detail.id === id && detail.kind !== 'photo' && detail.kind !== 'logo');

export const HouseStyleSchema = z.object({
  look: LookSchema.default(FIRST_LOOK),
  layouts: z
    .array(z.enum(LAYOUT_NAMES))
    .min(1)
    .default([...LAYOUT_NAMES]),
  logos: z
    .object({ onLight: PictureSchema.nullable().default(null), onDark: PictureSchema.nullable().default(null) })
    .default({ onLight: null, onDark: null }),
  lines: z
    .array(HouseLineSchema)
    .max(LIMITS.houseLines)
    .refine((lines) => new Set(lines.map(({ id }) => id)).size === lines.length)
    .refine((lines) => !lines.some(({ id }) => isOfficeLine(id)))
    .default([]),
  blocks: z
    .array(BlockSchema)
    .max(LIMITS.houseBlocks)
    // What takes lines of a card or is a card's only one stays the card's.
    .refine((blocks) =>
      blocks.every(({ id, kind }) => id.startsWith(HOUSE_ID) && HOUSE_BLOCKS.some((each) => each === kind)),
    )
    .default([]),
  codes: z
    .object({
      ink: HexSchema,
      ground: HexSchema,
      modules: z.enum(MODULE_SHAPES).optional(),
      fill: z.number().int().min(STYLE_BOUNDS.fill.least).max(STYLE_BOUNDS.fill.most).optional(),
      finderShape: z.enum(FINDER_SHAPES).optional(),
      logo: z.number().int().min(STYLE_BOUNDS.mark.least).max(STYLE_BOUNDS.mark.most).optional(),
    })
    .refine(({ ink, ground }) => codeReads(ink, ground))
    .default({ ink: '#000000', ground: '#FFFFFF' }),
  signature: HouseSignatureSchema.optional(),
  inks: InksSchema.optional(),
  locks: z.partialRecord(z.enum(LOCKABLE), z.string().trim().min(1).max(LIMITS.lockReason)).default({}),
  owned: z.partialRecord(z.enum(OWNABLE), z.string().trim().min(1).max(LIMITS.lockReason)).optional(),
});

/** The lines of an office: each of its own kind, at most once. */
export const OfficeLinesSchema = z
  .array(HouseLineSchema)
  .max(OFFICE_SLOTS.length)
  .refine((lines) => lines.every(({ id }) => isOfficeLine(id)))
  .refine((lines) => new Set(lines.map(({ id }) => id)).size === lines.length)
  .refine((lines) =>
    OFFICE_SLOTS.every((slot) =>
      lines.every(({ id, detail }) => id !== officeLine(slot) || detail.kind === OFFICE_KINDS[slot]),
    ),
  );

/** An office as somebody saves it, over the version that they saw (`base`). */
export const OfficeSchema = z.object({
  base: z.number().int().min(0).default(0),
  name: z.string().max(200),
  lines: OfficeLinesSchema,
});
