import type { PersonRecord } from '@/core/record';
import type { LooksWrong } from './judge';
import type { Told } from './reply';

/** How far a lead has come. */
export const LEAD_STATES = ['new', 'in touch', 'later', 'done', 'not wanted'] as const;
export type LeadState = (typeof LEAD_STATES)[number];

/** How somebody became a lead: by a reply, by typing on the holder's phone, typed by the holder, from a contact file. */
export type CameBy = 'reply' | 'handed' | 'typed' | 'file';

/** What a holder notes of a lead. */
export const HAND_KINDS = ['note', 'meeting', 'call', 'mail', 'text'] as const;
export type HandKind = (typeof HAND_KINDS)[number];
/** Besides, what comes of itself. */
export const ENTRY_KINDS = [...HAND_KINDS, 'sent', 'view', 'corrected', 'handed over', 'merged'] as const;
export type EntryKind = (typeof ENTRY_KINDS)[number];

/** A lead as a list has it. Instants are ISO 8601 in UTC, `due` is a day (`YYYY-MM-DD`). */
export type ListedLead = {
  id: string;
  name: string;
  about: string;
  reach: string;
  state: LeadState;
  private: boolean;
  owner: { id: string; name: string };
  came: string;
  last: string;
  by: CameBy;
  where: string;
  due: string | null;
  topics: string[];
  /** A reply waits for a nod. */
  waits: boolean;
};

export type ShownReply = {
  id: string;
  at: string;
  told: Told;
  wrong: LooksWrong[];
  waits: boolean;
  /** Whether the link of their mail was followed, and whether later views are told. */
  followed: boolean;
  agreed: boolean;
  consent: string;
};

export type ShownEntry = {
  id: string;
  kind: EntryKind;
  at: string;
  place: string;
  text: string;
  private: boolean;
  /** Who noted it; null of what came of itself. */
  by: string | null;
  own: boolean;
};

export type ShownFollowUp = { id: string; due: string; what: string; done: boolean };

/** A lead as its screen shows it. */
export type ShownLead = ListedLead & {
  version: number;
  record: PersonRecord;
  lines: { id: string; label: string; value: string; href: string | null }[];
  card: { id: string; audience: string } | null;
  occasion: string | null;
  replies: ShownReply[];
  entries: ShownEntry[];
  followUps: ShownFollowUp[];
  /** Others that are the same person by a mail address, a number or name and firm. */
  doubles: { id: string; name: string; private: boolean }[];
  /** The latest merge, while it can be undone. */
  merged: { id: string; at: string; name: string } | null;
};
