import { z } from 'zod';
import { LIMITS } from '@/core/limits';
import { LanguageSchema } from '@/core/language/schema';
import { isPattern } from '@/core/record';
import { COMPANY_DEFAULTS, type CompanyDefaults } from './defaults';

const text = z.string().max(LIMITS.text).default('');
const PatternSchema = z
  .object({ name: z.string().trim().max(40), address: z.string().trim().max(300) })
  .refine(isPattern);

/** Apart from the type, so that screens which only read defaults load no schemas. */
export const CompanyDefaultsSchema: z.ZodType<CompanyDefaults> = z.object({
  languages: z.array(LanguageSchema).max(LIMITS.languages).default([]),
  texts: z.object({ resting: text, retired: text }).default(COMPANY_DEFAULTS.texts),
  ask: z.string().max(LIMITS.label).default(''),
  patterns: z.array(PatternSchema).max(LIMITS.patterns).default([]),
  leads: z.object({ private: z.boolean(), months: z.number().int().min(1).max(120) }).default(COMPANY_DEFAULTS.leads),
});
