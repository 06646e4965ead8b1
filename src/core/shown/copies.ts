/** The forms that a copy is out in: a contact that recipients saved is a `file`, one that went along with a message `mail`. */
export type CopyChannel = 'code' | 'tag' | 'print' | 'backdrop' | 'pass' | 'signature' | 'file' | 'mail';

/** One value of a copy as people read it, `sought` where it was asked for; `now` is what the card says there today, null where it says nothing any more. */
export type CopyValue = { label: string; was: string; now: string | null; old: boolean; sought: boolean };

/** A copy that is out, or so many of one run. */
export type ShownCopy = {
  id: string;
  cardId: string;
  recordId: string;
  person: string;
  audience: string;
  handOutId: string | null;
  placement: string | null;
  code: string | null;
  /** Whether a scan of its code shows today's card. */
  live: boolean;
  /** Whether its piece was given up. */
  retired: boolean;
  channel: CopyChannel;
  revision: number;
  copies: number | null;
  place: string | null;
  since: string;
  done: string | null;
  values: CopyValue[];
};

/** Contacts of a card that say something old and cannot be called back: how many phones saved one, how many went along with messages. */
export type GoneContacts = {
  cardId: string;
  person: string;
  audience: string;
  saved: number;
  sent: number;
  values: CopyValue[];
};

/** Copies that are out, the latest first, and from where the list goes on; `of` names the card or hand-out that it is of; `unsettled` counts those that are out of date and not dealt with, of all of them. */
export type CopiesPage = {
  copies: ShownCopy[];
  next: string | null;
  of: string | null;
  unsettled: number;
  gone: GoneContacts[];
};

/** What is out of a value of a record, by the form that it is out in: entries of ours, copies where they are counted, some placements. */
export type OutThere = {
  line: string;
  value: string;
  channel: CopyChannel;
  pieces: number;
  copies: number | null;
  placements: string[];
};
