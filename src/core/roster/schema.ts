import { z } from 'zod';
import { LIMITS } from '@/core/limits';
import { FIELDS } from './fields';
import type { RunOptions } from './shown';

export const ColumnsSchema = z
  .array(z.object({ heading: z.string().max(LIMITS.label), field: z.enum(FIELDS).nullable() }))
  .min(1)
  .max(LIMITS.rosterColumns)
  .refine((columns) => {
    const fields = columns.flatMap(({ field }) => field ?? []);
    return new Set(fields).size === fields.length;
  });

export const PlaceSchema = z.object({
  sheet: z.number().int().min(0).max(200),
  headingRow: z.number().int().min(1).max(1_000),
});

export const OptionsSchema: z.ZodType<RunOptions> = z.object({
  complete: z.union([z.enum(['no', 'company']), z.object({ team: z.uuid() })]),
  publish: z.union([z.enum(['drafts', 'now']), z.object({ at: z.iso.datetime({ offset: true }) })]),
  privateToo: z.boolean(),
  instead: z.uuid().nullable(),
});

export const RunNameSchema = z.string().trim().min(1).max(80);
