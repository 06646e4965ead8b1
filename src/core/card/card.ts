import { z } from 'zod';
import { LIMITS } from '@/core/limits';
import { LANGUAGES } from '@/core/messages/language';
import { DetailSchema, type Detail, type PersonRecord } from '@/core/record';
import { PARTS } from './parts';

/** The forms that a card goes out in. A further channel adds itself here. */
export const CHANNELS = ['page', 'file', 'code', 'tag'] as const;
export type Channel = (typeof CHANNELS)[number];

/** The channels that a card has from the beginning; another one's column appears with its first hand-out. */
export const FIRST_CHANNELS: readonly Channel[] = ['page', 'file'];

/** The line of the name, which every card has and whose ticks are locked (FN is required: RFC 6350 6.2.1). */
export const NAME_LINE = 'name';

/** How much a line stands out. What it does is the layout's. */
export const EMPHASES = ['plain', 'strong', 'quiet'] as const;
export type Emphasis = (typeof EMPHASES)[number];

/** A tick says that the line goes out on that channel. Code and tag govern what a frozen one carries. */
export const TicksSchema = z.object({
  page: z.boolean(),
  file: z.boolean(),
  code: z.boolean().default(false),
  tag: z.boolean().default(false),
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

export const LinesSchema = z
  .array(LineSchema)
  .max(LIMITS.lines)
  .refine((lines) => new Set(lines.map((line) => line.detail)).size === lines.length)
  .refine((lines) => lines.every(({ own, detail }) => !own || (own.id === detail && own.kind !== 'photo')));

export const AudienceSchema = z.string().trim().min(1).max(LIMITS.audience);

/** What the table of a card edits: its lines, its internal name, and the language of our words. */
export const DraftSchema = z.object({
  lines: LinesSchema,
  audience: AudienceSchema,
  language: z.enum(LANGUAGES).nullable(),
});
export type Draft = z.infer<typeof DraftSchema>;

/** What a recipient sees of a card depends on its state. */
export const STATES = ['draft', 'published', 'resting', 'retired'] as const;
export type CardState = (typeof STATES)[number];

/** The detail that a line shows: its own, else the record's; null for the name and for what is gone. */
export const detailOf = (line: Line, record: PersonRecord): Detail | null =>
  line.own ?? record.details.find((detail) => detail.id === line.detail) ?? null;

/** Whether a line goes out anywhere. */
export const goesOut = ({ ticks }: Line): boolean => CHANNELS.some((channel) => ticks[channel]);

/** A new line of a detail, ticked as said. */
export const lineOf = (detail: string, ticks: Ticks, own: Detail | null = null): Line => ({
  detail,
  label: null,
  wording: null,
  part: null,
  emphasis: 'plain',
  gap: false,
  own,
  ticks,
});
