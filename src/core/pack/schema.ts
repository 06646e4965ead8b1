import { z } from 'zod';
import { LIMITS } from '@/core/limits';
import { VERSIONS } from '@/core/vcard';
import { PACK_KINDS } from './manifest';

/** What somebody asks for: files of these people, of these kinds, named by a pattern. */
export const PackSchema = z.object({
  records: z.array(z.uuid()).min(1).max(LIMITS.rosterRows),
  kinds: z.array(z.enum(PACK_KINDS)).min(1),
  pattern: z.string().max(200),
  version: z.enum(VERSIONS).default('3.0'),
});
export type PackWanted = z.infer<typeof PackSchema>;
