import { z } from 'zod';
import { LIMITS } from '@/core/limits';
import type { Language } from '@/core/language';
import { LanguageSchema } from '@/core/language/schema';
import { FIRST_LOOK } from '@/core/look';
import { LookSchema } from '@/core/look/schema';
import { DetailSchema, NameSchema, type Detail } from '@/core/record';
import { BlockSchema, OpensSchema, type PageParts } from './blocks/blocks';
import { LEFT_OUT } from './audiences';
import { CHANNELS, EMPHASES, NAME_LINE, PARTS } from './channels';

/** A tick says that the line goes out on that channel. Code and tag govern what a frozen one carries, signature what stands
 * below mails, print what stands on paper, backdrop and pass what stands on those. */
const TicksSchema = z.object({
  page: z.boolean(),
  file: z.boolean(),
  code: z.boolean().default(false),
  tag: z.boolean().default(false),
  signature: z.boolean().default(false),
  print: z.boolean().default(false),
  backdrop: z.boolean().default(false),
  pass: z.boolean().default(false),
});
export type Ticks = z.infer<typeof TicksSchema>;

/**
 * One row of a card. `detail` is the id of a detail of the record, {@link NAME_LINE}, or that of `own`: a detail that stands on
 * this card only. `label` and `wording` are the card's own words, or null for the record's; `part` is the part of the value
 * that goes out, or null for the whole.
 */
export const LineSchema = z.object({
  detail: z.string().min(1).max(40),
  label: z.string().max(LIMITS.label).nullable(),
  wording: z.string().max(LIMITS.note).nullable(),
  part: z.enum(PARTS).nullable().default(null),
  emphasis: z.enum(EMPHASES).default('plain'),
  gap: z.boolean().default(false),
  own: DetailSchema.nullable().default(null),
  ticks: TicksSchema,
});
export type Line = z.infer<typeof LineSchema>;

/** A detail of the card's own stands under its own id, is no picture, and never takes the place of the name. */
const fitsLine = (own: Detail, line: string): boolean =>
  own.id === line && line !== NAME_LINE && own.kind !== 'photo' && own.kind !== 'logo';

export const LinesSchema = z
  .array(LineSchema)
  .max(LIMITS.lines)
  .refine((lines) => new Set(lines.map((line) => line.detail)).size === lines.length)
  .refine((lines) => lines.every(({ own, detail }) => !own || fitsLine(own, detail)));

export const AudienceSchema = z.string().trim().min(1).max(LIMITS.audience);

/** What the table of a card edits: its lines, its blocks, its internal name, and the language of our words. */
export type Draft = PageParts & { lines: Line[]; audience: string; language: Language | null };

/** A line as it goes out: its label, its detail with the card's own wording put in, and the channels that carry it. */
const ComposedLineSchema = z.object({
  id: z.string(),
  label: z.string(),
  detail: DetailSchema,
  on: z.array(z.enum(CHANNELS)),
  emphasis: z.enum(EMPHASES).default('plain'),
  /** Some room before the line. */
  gap: z.boolean().default(false),
});
export type ComposedLine = z.infer<typeof ComposedLineSchema>;

/**
 * What a card gives out, and nothing else: lines that are ticked nowhere are not in it. A revision keeps exactly this,
 * and page, contact file and code are functions of it.
 */
const SaidSchema = z.object({
  name: NameSchema,
  lines: z.array(ComposedLineSchema),
  /** The blocks that are switched on and not empty. */
  blocks: z.array(BlockSchema).default([]),
});
export const CompositionSchema = SaidSchema.extend({
  /** The language of our own words; null where the recipient's browser chooses. Of a card in several languages that of its first words. */
  language: LanguageSchema.nullable().default(null),
  opens: OpensSchema.default({ first: 'page' }),
  look: LookSchema.default(FIRST_LOOK),
  /** The same said in further languages. */
  further: z.record(LanguageSchema, SaidSchema).default({}),
});
export type Said = z.infer<typeof SaidSchema>;
export type Composition = z.infer<typeof CompositionSchema>;

/** An {@link Audience} preset. */
const AudiencePresetSchema = z.object({
  name: AudienceSchema,
  isPrivate: z.boolean(),
  without: z.array(z.enum(LEFT_OUT)).max(LEFT_OUT.length),
});

export const AudiencePresetsSchema = z
  .array(AudiencePresetSchema)
  .min(1)
  .max(LIMITS.audiences)
  .refine((presets) => new Set(presets.map(({ name }) => name.toLowerCase())).size === presets.length);
