import { LinesSchema } from '@/core/card';
import { RecordSchema } from '@/core/record';
import type { Tx } from '../pool';
import type { LeadRow } from './leads';

/** Ids of what hangs on a lead, by table. */
type Hanging = Record<'replies' | 'lead_entries' | 'follow_ups' | 'referrals', string[]>;

/** How two leads were before they became one; instants are ISO 8601. */
export type MergeBefore = { kept: Stored; gone: Stored; moved: Hanging; madePrivate: string[] };
type Stored = Omit<LeadRow, 'updated_at' | 'came_at' | 'last_at'> &
  Record<'updated_at' | 'came_at' | 'last_at', string>;

export type MergeRow = {
  id: string;
  organisation_id: string;
  contact_id: string;
  user_id: string;
  private: boolean;
  at: Date;
  before: MergeBefore;
};

const parsed = (row: Stored): Stored => ({
  ...row,
  body: RecordSchema.parse(row.body),
  lines: LinesSchema.parse(row.lines),
});

/** The latest merge into a lead that whoever asks may see. */
export async function latestMerge(tx: Tx, contactId: string): Promise<MergeRow | undefined> {
  const row: MergeRow | undefined = await tx('lead_merges')
    .where({ contact_id: contactId })
    .orderBy([{ column: 'at', order: 'desc' }, 'id'])
    .first();
  return row && { ...row, before: { ...row.before, kept: parsed(row.before.kept), gone: parsed(row.before.gone) } };
}

export const insertMerge = (tx: Tx, row: MergeRow) =>
  tx('lead_merges').insert({ ...row, before: JSON.stringify(row.before) });
export const deleteMerge = (tx: Tx, id: string): Promise<number> => tx('lead_merges').where({ id }).delete();

/**
 * Hangs what hangs on one lead on another, notes that others keep private included; tells what it was, and which notes are their authors' alone
 * from now on.
 */
export const moveHanging = async (
  tx: Tx,
  from: string,
  to: string,
): Promise<Pick<MergeBefore, 'moved' | 'madePrivate'>> =>
  (
    await tx.raw<{ rows: { done: Pick<MergeBefore, 'moved' | 'madePrivate'> }[] }>(
      'SELECT merge_hanging(?, ?) AS done',
      [to, from],
    )
  ).rows[0]!.done;

/** The way back of a merge, once the lead that was gone is there again. */
export const moveBack = (tx: Tx, merge: string) => tx.raw('SELECT part_hanging(?)', [merge]);

/** Takes away a lead of which nothing hangs any more. */
export const dropLead = (tx: Tx, id: string): Promise<number> => tx('contacts').where({ id }).delete();
