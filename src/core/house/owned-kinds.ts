import type { DetailKind } from '@/core/record';

/**
 * What may belong to the organisation: the name, and details by kind, as the sheet of its staff has them. Of kinds that have a use,
 * phones, mails, links and addresses, only those for work: what is private stays the holder's.
 */
export const OWNABLE = [
  ...['name', 'title', 'role', 'organisation', 'phone', 'email', 'address', 'link', 'hours', 'photo', 'logo'],
  ...['licence', 'credential', 'language', 'pronouns', 'said', 'nickname', 'category', 'note', 'birthday', 'own'],
] as const satisfies readonly ('name' | DetailKind)[];
export type Ownable = (typeof OWNABLE)[number];

/** Kinds that belong to the organisation, each with the reason that a holder reads; the others are the holder's. */
export type Owned = Partial<Record<Ownable, string>>;
