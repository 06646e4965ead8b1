import { z } from 'zod';
import { BlockSchema, PictureSchema } from '@/core/card';
import { LIMITS } from '@/core/limits';
import { contrast, FIRST_LOOK, HexSchema, luminance, LAYOUT_NAMES, LOOK_PARTS, LookSchema } from '@/core/look';
import { DetailSchema } from '@/core/record';

/** Modules of a code against their ground: 4 to 1 leaves room for poor light (common practice, no published source). */
export const CODE_RATIO = 4;
/** Dark on light, since few readers take a code the other way round. */
export const codeReads = (ink: string, ground: string): boolean =>
  contrast(ink, ground) >= CODE_RATIO && luminance(ink) < luminance(ground);

/** What a house style may keep holders from changing: parts of the look, and what it adds to every card. */
export const LOCKABLE = [...LOOK_PARTS, 'logo', 'lines', 'blocks'] as const;
export type Lockable = (typeof LOCKABLE)[number];

/** Ids of what a house style adds begin so, and no card's own do. */
export const HOUSE_ID = 'house-';
const HouseId = z.string().regex(/^house-[a-z0-9-]{1,34}$/);

/** A fixed line: the firm, its address, a disclaimer, a link. It goes out on the page, with the contact file, or both. */
const HouseLineSchema = z
  .object({
    id: HouseId,
    label: z.string().max(LIMITS.label),
    detail: DetailSchema,
    page: z.boolean(),
    file: z.boolean(),
  })
  .refine(({ id, detail }) => detail.id === id && detail.kind !== 'photo' && detail.kind !== 'logo');
export type HouseLine = z.infer<typeof HouseLineSchema>;

/**
 * An organisation's house style. `look` is what cards take that follow it; `layouts` are those that a card may have; `logos`
 * stand for the record's own, one for light grounds and one for dark; `lines` and `blocks` are added to every card. A lock carries
 * its reason, which is shown to whoever meets it: a card may leave out lines and blocks that are not locked, and keep its own logo.
 */
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
    .default([]),
  blocks: z
    .array(BlockSchema)
    .max(LIMITS.houseBlocks)
    // What takes lines of a card or is a card's only one stays the card's.
    .refine((blocks) =>
      blocks.every(({ id, kind }) => id.startsWith(HOUSE_ID) && HOUSE_BLOCKS.some((each) => each === kind)),
    )
    .default([]),
  /** Colours of the organisation's codes: modules and their ground. */
  codes: z
    .object({ ink: HexSchema, ground: HexSchema })
    .refine(({ ink, ground }) => codeReads(ink, ground))
    .default({ ink: '#000000', ground: '#FFFFFF' }),
  locks: z.partialRecord(z.enum(LOCKABLE), z.string().trim().min(1).max(LIMITS.lockReason)).default({}),
});
export type HouseStyle = z.infer<typeof HouseStyleSchema>;

/** Kinds of block that an organisation can add to every card. */
export const HOUSE_BLOCKS = ['about', 'gallery', 'onward links', 'products'] as const;

export const NO_HOUSE: HouseStyle = HouseStyleSchema.parse({});
