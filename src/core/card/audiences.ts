import { z } from 'zod';
import { LIMITS } from '@/core/limits';
import type { DetailKind } from '@/core/record';
import { AudienceSchema } from './card';

/** Kinds of details that a preset may leave out of a card. */
export const LEFT_OUT = [
  'photo',
  'logo',
  'pronouns',
  'title',
  'role',
  'organisation',
  'licence',
  'credential',
  'language',
  'phone',
  'email',
  'link',
  'address',
  'hours',
  'own',
] as const satisfies readonly DetailKind[];

/**
 * An audience preset: it sets the first ticks of a card and no more. `isPrivate` ticks private details too; kinds in `without`
 * start ticked nowhere.
 */
export const AudiencePresetSchema = z.object({
  name: AudienceSchema,
  isPrivate: z.boolean(),
  without: z.array(z.enum(LEFT_OUT)).max(LEFT_OUT.length),
});
export type Audience = z.infer<typeof AudiencePresetSchema>;

export const AudiencePresetsSchema = z
  .array(AudiencePresetSchema)
  .min(1)
  .max(LIMITS.audiences)
  .refine((presets) => new Set(presets.map(({ name }) => name.toLowerCase())).size === presets.length);

/** The presets that an organisation has until it edits them. The first two are the first set of cards that is offered. */
export const FIRST_AUDIENCES: readonly Audience[] = [
  { name: 'Work', isPrivate: false, without: [] },
  { name: 'Private', isPrivate: true, without: ['title', 'role', 'organisation', 'licence', 'credential', 'logo'] },
  { name: 'Trade fair', isPrivate: false, without: ['address', 'hours', 'pronouns'] },
  { name: 'Clients', isPrivate: false, without: [] },
  { name: 'Suppliers', isPrivate: false, without: ['photo', 'pronouns', 'credential'] },
  { name: 'Referrals', isPrivate: false, without: ['hours'] },
  {
    name: 'Neighbours',
    isPrivate: true,
    without: ['title', 'role', 'organisation', 'licence', 'credential', 'logo', 'hours'],
  },
];
