import type { Privacy } from '@/core/card';
import type { Finding } from '@/core/findings';
import type { CopyChannel } from './copies';

/** The forms that something is public in: `page` and `file` as they are given out today, all else as copies that are out. */
export type PublicChannel = 'page' | Exclude<CopyChannel, 'mail'>;
export const PUBLIC_CHANNELS = ['page', 'file', 'code', 'tag', 'signature', 'print', 'backdrop', 'pass'] as const;

/** A value of a person that is public: the cards that give it out and the forms; `inside` where it stands within other words. */
export type ShownPublic = {
  line: string;
  /** Why it is private; null where it is not. */
  privacy: Privacy | null;
  label: string;
  value: string;
  inside: boolean;
  cards: { id: string; audience: string }[];
  on: PublicChannel[];
};

export type ExposedPerson = { id: string; name: string; values: ShownPublic[] };

/** People with something private in public, by name, and from where the list goes on. */
export type PrivacyMap = {
  people: ExposedPerson[];
  next: string | null;
  /** How many people they are by kind, in every form and in each; of all whom the member reaches, whatever is filtered. */
  counts: { privacy: Privacy; people: number; on: Partial<Record<PublicChannel, number>> }[];
  exposed: number;
  /** How many match what is filtered. */
  matching: number;
  of: number;
  /** How many are still to be looked at. */
  waiting: number;
};

/** What is public about one person, whatever it is, and in how many phones and mails a contact is. */
export type PublicAbout = { id: string; name: string; values: ShownPublic[]; saved: number; sent: number };

/** What is done about what is private: taken off the cards, or marked as for work. */
export const MENDS = ['take off', 'for work'] as const;
export type MendAct = (typeof MENDS)[number];

/** Why something stays as it is when it is mended. */
export type LeftFor = 'inside' | 'changed' | 'planned' | 'copies only' | 'not marked';

/** A card, or with none a record, with what of it is meant. */
export type MendEntry = {
  recordId: string;
  person: string;
  card: { id: string; audience: string } | null;
  values: string[];
};

/** What a mend would do, and what it leaves as it is. */
export type MendPlan = {
  mended: (MendEntry & { copies: PublicChannel[] })[];
  left: (MendEntry & { why: LeftFor })[];
};

/** What a mend has done, as its job's page tells of it. */
export type Mended = {
  rows: (Omit<MendEntry, 'values'> & { finding: Finding | null; undone: boolean })[];
  /** Whether something of it can be undone. */
  mayUndo: boolean;
};
