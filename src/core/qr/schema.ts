import { z } from 'zod';
import { FINDER_SHAPES, GRADIENT_WAYS, MODULE_SHAPES, PLAIN_STYLE, STYLE_BOUNDS, type CodeStyle } from './style';

// Apart from the drawing, which browsers do and which needs no schema.

const Hex = z
  .string()
  .regex(/^#[0-9a-f]{6}$/i)
  .transform((hex) => hex.toUpperCase());

/** Bytes of a mark's data address: a PNG of a few hundred pixels a side. */
const MARK_LETTERS = 120_000;

const MarkSchema = z.object({
  href: z
    .string()
    .max(MARK_LETTERS)
    .regex(/^data:image\/png;base64,[A-Za-z0-9+/]+={0,2}$/),
  ratio: z.number().min(0.2).max(5),
  percent: z.number().min(STYLE_BOUNDS.mark.least).max(STYLE_BOUNDS.mark.most),
});

/** A code's style as it comes from outside: what is left out is plain. */
export const CodeStyleSchema: z.ZodType<CodeStyle> = z.strictObject({
  ink: Hex.default(PLAIN_STYLE.ink),
  ground: Hex.nullable().default(PLAIN_STYLE.ground),
  finders: Hex.nullable().default(null),
  gradient: z
    .object({ to: Hex, way: z.enum(GRADIENT_WAYS) })
    .nullable()
    .default(null),
  modules: z.enum(MODULE_SHAPES).default('squares'),
  fill: z.number().min(STYLE_BOUNDS.fill.least).max(STYLE_BOUNDS.fill.most).default(100),
  finderShape: z.enum(FINDER_SHAPES).default('square'),
  mark: MarkSchema.nullable().default(null),
  words: z.string().max(STYLE_BOUNDS.words).default(''),
  around: z.boolean().optional(),
});
