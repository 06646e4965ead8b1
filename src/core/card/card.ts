import { z } from 'zod';
import { LIMITS } from '@/core/limits';

/** The forms that a card goes out in. This slice has the page and the contact file; a further channel adds itself here. */
export const CHANNELS = ['page', 'file'] as const;
export type Channel = (typeof CHANNELS)[number];

/** The line of the name, which every card has and whose ticks are locked (FN is required: RFC 6350 6.2.1). */
export const NAME_LINE = 'name';

/**
 * One row of a card. `detail` is the id of a detail of the record, or {@link NAME_LINE}. `label` and `wording` are the
 * card's own words, or null for the record's. A tick says that the line goes out on that channel.
 */
export const LineSchema = z.object({
  detail: z.string().min(1).max(40),
  label: z.string().max(120).nullable(),
  wording: z.string().max(LIMITS.note).nullable(),
  ticks: z.object({ page: z.boolean(), file: z.boolean() }),
});
export type Line = z.infer<typeof LineSchema>;

export const LinesSchema = z
  .array(LineSchema)
  .max(LIMITS.details + 1)
  .refine((lines) => new Set(lines.map((line) => line.detail)).size === lines.length);

export const AudienceSchema = z.string().trim().min(1).max(80);

/** What a recipient sees of a card depends on its state. */
export const STATES = ['draft', 'published', 'resting', 'retired'] as const;
export type CardState = (typeof STATES)[number];
