import type { Difference } from '@/core/record';
import type { Warning } from '@/core/vcard';
import type { Verdict } from './verdict';

/** What is happening to a contact file that came in. */
export const IMPORT_STATES = ['reading', 'ready', 'taking', 'taken', 'undoing', 'undone', 'failed'] as const;
export type ImportState = (typeof IMPORT_STATES)[number];

/** A contact of a file as its review shows it. */
export type ShownEntry = {
  /** Its place in the file, from 0. */
  at: number;
  line: number;
  name: string;
  /** What the contact brings, in a line. */
  about: string;
  verdict: Verdict;
  take: boolean;
  /** The record of the same person. */
  record: { id: string; name: string } | null;
  differences: (Difference & { chosen: boolean })[];
  /** Names of the properties that are not understood and kept. */
  kept: string[];
  warnings: Warning[];
  tooLarge: string[];
  made: { recordId: string; cardId: string | null } | null;
  undone: boolean;
};

export type EntryCounts = { verdict: Verdict; found: number; chosen: number; made: number; undone: number };

/** An import with a stretch of its contacts; `next` is where the following stretch begins, or null. */
export type OpenedImport = {
  id: string;
  fileName: string;
  state: ImportState;
  job: string | null;
  warnings: Warning[];
  counts: EntryCounts[];
  entries: ShownEntry[];
  next: number | null;
};
