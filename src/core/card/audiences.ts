import type { DetailKind } from '@/core/record';

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
export type Audience = { name: string; isPrivate: boolean; without: (typeof LEFT_OUT)[number][] };

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
