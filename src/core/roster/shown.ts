import type { Problem } from '@/core/errors';
import type { Crop } from '@/core/record';
import type { Change } from './apply-row';
import type { DateOrder } from './dates';
import type { Field } from './fields';
import type { Decision, Verdict } from './judge';
import type { Cells, Remark } from './read-row';

export const RUN_STATES = ['mapping', 'reading', 'ready', 'running', 'done', 'undoing', 'undone'] as const;
export type RunState = (typeof RUN_STATES)[number];

/** A column of a sheet and what it holds; columns without a field are never kept. */
export type Column = { heading: string; field: Field | null };
/** Where the rows of a sheet are: its place in the file from 0, and the row of the headings, counted from 1; and how its dates are written. */
export type SheetPlace = { sheet: number; headingRow: number; order?: DateOrder };

/**
 * How a run is carried out. `complete` says that whoever is not in the sheet has left the company, or the team of that id. Cards are
 * left as drafts, published at once, or at an instant (ISO 8601). Private details go where the pattern has them only with `privateToo`.
 * Cards of leavers lead to the card `instead`.
 */
export type RunOptions = {
  complete: 'no' | 'company' | { team: string };
  publish: 'drafts' | 'now' | { at: string };
  privateToo: boolean;
  instead: string | null;
};
export const FIRST_OPTIONS: RunOptions = { complete: 'no', publish: 'drafts', privateToo: false, instead: null };

export const OUTCOMES = ['made', 'changed', 'left', 'as it was', 'failed'] as const;
export type Outcome = (typeof OUTCOMES)[number];

/** How many rows there are of each verdict, how many of them are to be carried out, and how many were. */
export type RowCounts = {
  verdict: Verdict;
  found: number;
  chosen: number;
  done: number;
  failed: number;
  undone: number;
}[];

export type ShownRow = {
  at: number;
  name: string;
  cells: Cells;
  verdict: Verdict | null;
  remarks: Remark[];
  changes: Change[];
  decision: Decision;
  take: boolean;
  record: string | null;
  card: string | null;
  picture: string | null;
  outcome: Outcome | null;
  published: boolean;
  problem: Problem | null;
  undone: boolean;
};

/** A picture of a row by its file name: the square that was cut from it, and how. */
export type ShownPicture = { name: string; square: string; crop: Crop | null };

export type ShownRun = {
  id: string;
  name: string;
  state: RunState;
  who: string;
  created: string;
  pattern: { id: string; person: string; audience: string } | null;
  columns: Column[];
  options: RunOptions;
  job: string | null;
  counts: RowCounts;
  forgotten: boolean;
};
