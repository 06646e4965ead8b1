import type { HouseStyle } from '@/core/house';
import type { Look } from '@/core/look';
import type { Tx } from './pool';

export type HouseRow = {
  organisation_id: string;
  number: number;
  style: HouseStyle;
  note: string;
  saved_by: string | null;
  saved_at: Date;
};
export type LookRow = {
  id: string;
  organisation_id: string;
  user_id: string;
  name: string;
  look: Look;
  created_at: Date;
};

/** The version of the house style that holds; undefined where there is none. */
export const latestHouse = async (tx: Tx): Promise<HouseRow | undefined> =>
  tx('house_styles').orderBy('number', 'desc').first();

export const houseVersions = async (
  tx: Tx,
): Promise<(Pick<HouseRow, 'number' | 'note' | 'saved_at'> & { who: string | null })[]> =>
  tx('house_styles as h')
    .leftJoin('users as u', 'u.id', 'h.saved_by')
    .orderBy('h.number', 'desc')
    .select('h.number', 'h.note', 'h.saved_at', 'u.name as who');

export const houseVersion = async (tx: Tx, number: number): Promise<HouseRow | undefined> =>
  tx('house_styles').where({ number }).first();

export const insertHouse = (tx: Tx, row: HouseRow) =>
  tx('house_styles').insert({ ...row, style: JSON.stringify(row.style) });

export const looksOf = async (tx: Tx, userId: string): Promise<LookRow[]> =>
  tx('looks').where({ user_id: userId }).orderBy('name');

export const insertLook = (tx: Tx, row: LookRow) => tx('looks').insert({ ...row, look: JSON.stringify(row.look) });

export const deleteLook = async (tx: Tx, userId: string, id: string): Promise<boolean> =>
  (await tx('looks').where({ user_id: userId, id }).delete()) === 1;
