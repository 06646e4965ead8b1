import { z } from 'zod';
import { LIMITS } from '@/core/limits';
import { LAYOUT_NAMES } from '@/core/look';
import { USES } from '@/core/record';
import { TICKED_CHANNELS, TICKED_KINDS } from './change';

const Text = z.string().trim().min(1).max(LIMITS.text);

/** A change as somebody asks for it. */
export const ChangeSchema = z.discriminatedUnion('of', [
  z.object({
    ...{ of: z.literal('link'), from: Text.nullable(), to: Text },
    label: z.string().max(LIMITS.label).default(''),
  }),
  z.object({ of: z.literal('title'), from: Text.nullable(), to: Text }),
  z.object({ of: z.literal('layout'), layout: z.enum(LAYOUT_NAMES) }),
  z.object({
    ...{ of: z.literal('ticks'), kind: z.enum(TICKED_KINDS), use: z.enum(USES).nullable().default(null) },
    ...{ channel: z.enum(TICKED_CHANNELS), on: z.boolean(), privateToo: z.boolean().default(false) },
  }),
  z.object({ of: z.literal('codes') }),
]);

/** Whom it is asked for. */
export const ChangeManySchema = z.object({
  records: z.array(z.uuid()).min(1).max(LIMITS.rosterRows),
  change: ChangeSchema,
});
