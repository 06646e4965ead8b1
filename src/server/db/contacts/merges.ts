import { LinesSchema } from '@/core/card';
import { RecordSchema } from '@/core/record';
import type { Tx } from '../pool';
import type { LeadRow } from './leads';

/** What hangs on a lead, by table. */
const HANGING = ['replies', 'lead_entries', 'follow_ups', 'referrals'] as const;
type Hanging = (typeof HANGING)[number];

/** How two leads were before they became one; instants are ISO 8601. */
export type MergeBefore = { kept: Stored; gone: Stored; moved: Record<Hanging, string[]>; madePrivate: string[] };
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

/** Hangs what hangs on one lead on another; tells what it was. */
export async function moveHanging(tx: Tx, from: string, to: string): Promise<MergeBefore['moved']> {
  const moved = {} as MergeBefore['moved'];
  for (const table of HANGING)
    moved[table] = (
      await tx(table).where({ contact_id: from }).update({ contact_id: to }).returning<{ id: string }[]>('id')
    ).map(({ id }) => id);
  // Earlier merges into the one that goes cannot be undone any more.
  await tx('lead_merges').where({ contact_id: from }).delete();
  return moved;
}

export async function moveBack(tx: Tx, moved: MergeBefore['moved'], to: string): Promise<void> {
  for (const table of HANGING) await tx(table).whereIn('id', moved[table]).update({ contact_id: to });
}

/** Notes of a lead that only their author is to see from now on, or no longer; tells which. */
export const hideEntries = async (tx: Tx, ids: string[]): Promise<string[]> =>
  (
    await tx('lead_entries')
      .whereIn('id', ids)
      .where({ private: false })
      .whereNotNull('user_id')
      .update({ private: true })
      .returning<{ id: string }[]>('id')
  ).map(({ id }) => id);
export const showEntries = (tx: Tx, ids: string[]): Promise<number> =>
  tx('lead_entries').whereIn('id', ids).update({ private: false });

/** Takes away a lead of which nothing hangs any more. */
export const dropLead = (tx: Tx, id: string): Promise<number> => tx('contacts').where({ id }).delete();
