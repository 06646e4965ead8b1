import type { ShownJob } from '@/core/jobs';
import type { Difference } from '@/core/record';
import type { Trouble } from '@/core/vcard';

export type Verdict = 'new' | 'differs' | 'same' | 'twice';
export const VERDICTS: Verdict[] = ['new', 'differs', 'same', 'twice'];

/** A contact of a file as its review shows it. */
export type ShownEntry = {
  at: number;
  line: number;
  name: string;
  about: string;
  verdict: Verdict;
  take: boolean;
  record: { id: string; name: string } | null;
  differences: (Difference & { chosen: boolean })[];
  kept: number;
  hasPhoto: boolean;
  troubles: Trouble[];
  tooLarge: string[];
  made: { recordId: string; cardId: string | null } | null;
  undone: boolean;
};

export type OpenedImport = {
  id: string;
  fileName: string;
  state: 'reading' | 'ready' | 'taking' | 'taken' | 'undoing' | 'undone' | 'failed';
  job: string | null;
  created: string;
  troubles: Trouble[];
  counts: { verdict: Verdict; found: number; chosen: number; made: number; undone: number }[];
  entries: ShownEntry[];
  next: number | null;
};

export type ReviewProps = { opened: OpenedImport; job: ShownJob | null; show: Verdict | null };
