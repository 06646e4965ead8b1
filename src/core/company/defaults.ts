import { z } from 'zod';
import { LIMITS } from '@/core/limits';
import { LanguageSchema } from '@/core/messages/language-schema';
import { isPattern } from '@/core/record';

/** What an organisation gives its members to begin with. */
export const CompanyDefaultsSchema = z.object({
  /** Languages of its cards: a new card begins in the first, the others are offered first. */
  languages: z.array(LanguageSchema).max(LIMITS.languages).default([]),
  /** What recipients read of a card that rests or is retired, until somebody words it for one card. */
  texts: z
    .object({ resting: z.string().max(LIMITS.text).default(''), retired: z.string().max(LIMITS.text).default('') })
    .default({ resting: '', retired: '' }),
  /** Whom members ask. */
  ask: z.string().max(LIMITS.label).default(''),
  /** Services whose links are made from a number or a user name. */
  patterns: z
    .array(z.object({ name: z.string().trim().max(40), address: z.string().trim().max(300) }).refine(isPattern))
    .max(LIMITS.patterns)
    .default([]),
});
export type CompanyDefaults = z.infer<typeof CompanyDefaultsSchema>;

export const COMPANY_DEFAULTS: CompanyDefaults = CompanyDefaultsSchema.parse({});
