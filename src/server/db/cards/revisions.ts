import { CompositionSchema, type Composition, type Draft } from '@/core/card';
import type { Tx } from '../pool';

export type RevisionRow = {
  id: string;
  organisation_id: string;
  card_id: string;
  number: number;
  composition: Composition;
  published_by: string;
  published_at: Date;
  note: string;
  /** The draft that was published; null of revisions older than this column. */
  draft: Draft | null;
};

/** A row as it stands today, whenever it was published. */
const read = (row: RevisionRow): RevisionRow => ({ ...row, composition: CompositionSchema.parse(row.composition) });
const readOne = (row: RevisionRow | undefined): RevisionRow | undefined => row && read(row);

export const insertRevisions = (tx: Tx, rows: RevisionRow[]) =>
  tx('revisions').insert(
    rows.map((row) => ({
      ...row,
      composition: JSON.stringify(row.composition),
      draft: row.draft && JSON.stringify(row.draft),
    })),
  );

/** The revisions of a card without what they say, the latest first, each with who published it. */
export const revisionsOf = async (
  tx: Tx,
  cardId: string,
): Promise<(Pick<RevisionRow, 'number' | 'published_at' | 'note'> & { who: string | null; restorable: boolean })[]> =>
  tx('revisions as r')
    .leftJoin('users as u', 'u.id', 'r.published_by')
    .where('r.card_id', cardId)
    .orderBy('r.number', 'desc')
    .select('r.number', 'r.published_at', 'r.note', 'u.name as who', tx.raw('r.draft IS NOT NULL AS restorable'));

export const revision = async (tx: Tx, cardId: string, number: number): Promise<RevisionRow | undefined> =>
  readOne(await tx('revisions').where({ card_id: cardId, number }).first());

export const latestRevision = async (tx: Tx, cardId: string): Promise<RevisionRow | undefined> =>
  readOne(await tx('revisions').where({ card_id: cardId }).orderBy('number', 'desc').first());

/** What each of these cards gives out today, by its id. */
export const latestRevisions = async (tx: Tx, ids: string[]): Promise<Map<string, RevisionRow>> => {
  const rows: RevisionRow[] = await tx('revisions')
    .whereIn('card_id', ids)
    .distinctOn('card_id')
    .orderBy('card_id')
    .orderBy('number', 'desc')
    .select('*');
  return new Map(rows.map((row) => [row.card_id, read(row)]));
};

/** The number of the latest revision of each of these cards. */
export const revisionNumbers = async (tx: Tx, ids: string[]): Promise<Map<string, number>> => {
  const rows: { card_id: string; number: number }[] = await tx('revisions')
    .whereIn('card_id', ids)
    .select('card_id')
    .max('number as number')
    .groupBy('card_id');
  return new Map(rows.map((row) => [row.card_id, row.number]));
};
