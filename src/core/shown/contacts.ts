import type { Privacy } from '@/core/card';
import type { PersonRecord } from '@/core/record';

/** How lines of a contact are passed on. */
export type Way = 'file' | 'mail' | 'link';

/** A contact as the list of a member's has it, with when and how it was last referred. */
export type ListedContact = { id: string; name: string; last: { at: string; way: Way } | null };

/** That lines of a contact were passed on; a link says until when it shows them, and whether it still does; `old` is what went along and is no longer so. */
export type ShownReferral = {
  id: string;
  way: Way;
  at: string;
  lines: number;
  ends: string | null;
  holds: boolean;
  old: string[];
};

/** A contact as its screen shows it: whom a member refers, line by line. */
export type ShownContact = {
  id: string;
  version: number;
  name: string;
  record: PersonRecord;
  /** `privacy` tells why a line is private, null where it is not. */
  lines: { id: string; label: string; value: string; privacy: Privacy | null; ticked: boolean }[];
  /** Their own mail addresses, for a copy to themselves. */
  emails: string[];
  referrals: ShownReferral[];
};
