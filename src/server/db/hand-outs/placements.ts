import type { Tx } from '../pool';

/** The placement of a name, whatever its capitals, made where there is none. */
export async function placementNamed(tx: Tx, organisationId: string, name: string): Promise<string> {
  const [row] = await tx('placements')
    .insert({ organisation_id: organisationId, name })
    .onConflict(tx.raw('(organisation_id, lower(name))'))
    .ignore()
    .returning<{ id: string }[]>('id');
  if (row) return row.id;
  const known = await tx('placements').whereRaw('lower(name) = lower(?)', [name]).first<{ id: string }>('id');
  return known!.id;
}

/** Placements by name, the newest first. */
export const namesOfPlacements = async (tx: Tx): Promise<string[]> =>
  (await tx('placements').orderBy('created_at', 'desc').limit(40).select<{ name: string }[]>('name')).map(
    ({ name }) => name,
  );

export type OccasionRow = {
  id: string;
  organisation_id: string;
  name: string;
  place: string;
  first_day: string;
  last_day: string;
};

export const insertOccasion = (tx: Tx, row: OccasionRow) => tx('occasions').insert(row);

/** Occasions that are not over by a day (`YYYY-MM-DD`), the nearest first. */
export const occasionsFrom = async (tx: Tx, day: string): Promise<OccasionRow[]> =>
  tx('occasions')
    .where('last_day', '>=', day)
    .orderBy('first_day')
    .limit(50)
    .select(
      'id',
      'organisation_id',
      'name',
      'place',
      tx.raw(`to_char(first_day, 'YYYY-MM-DD') AS first_day`),
      tx.raw(`to_char(last_day, 'YYYY-MM-DD') AS last_day`),
    );

export const occasion = async (tx: Tx, id: string): Promise<OccasionRow | undefined> =>
  tx('occasions').where({ id }).first();

type OccasionChange = Omit<OccasionRow, 'id' | 'organisation_id'>;
export const updateOccasion = (tx: Tx, id: string, change: OccasionChange): Promise<number> =>
  tx('occasions').where({ id }).update(change);

export const deleteOccasion = (tx: Tx, id: string): Promise<number> => tx('occasions').where({ id }).delete();

/** How many hand-outs are for an occasion. */
export const handOutsAt = async (tx: Tx, id: string): Promise<number> =>
  Number((await tx('hand_outs').where({ occasion_id: id }).count<{ count: string }[]>())[0]!.count);
