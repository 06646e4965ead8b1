import type { Finding } from '@/core/findings';

/** An entry that a change leaves as it is, and why. */
export type LeftEntry = {
  recordId: string;
  person: string;
  card: { id: string; audience: string } | null;
  finding: Finding;
};

/** What a change of many would do, before anything is done. */
export type ChangePlan = {
  people: number;
  cards: number;
  /** Of them those that are out, and show it at once. */
  published: number;
  /** Copies out there that carry what is changed, and go out of date. */
  copies: number;
  /** The first few, as they are and as they would be. */
  sample: { person: string; audience: string | null; was: string; is: string }[];
  left: LeftEntry[];
  leftCount: number;
};

/** What a change of many has done, or whom a job has invited, as its job's page tells of it. */
export type Changed = {
  of: 'change' | 'invitation';
  changed: number;
  undone: number;
  left: LeftEntry[];
  leftCount: number;
  mayUndo: boolean;
};
