import { LookSchema } from '@/core/look/schema';
import type { Look } from '@/core/look';
import type { Tx } from '../pool';

export type LookRow = {
  id: string;
  organisation_id: string;
  user_id: string;
  name: string;
  look: Look;
  created_at: Date;
};

export const looksOf = async (tx: Tx, userId: string): Promise<LookRow[]> =>
  ((await tx('looks').where({ user_id: userId }).orderBy('name')) as LookRow[]).map((row) => ({
    ...row,
    look: LookSchema.parse(row.look),
  }));

export const insertLook = (tx: Tx, row: LookRow) => tx('looks').insert({ ...row, look: JSON.stringify(row.look) });

export const deleteLook = async (tx: Tx, userId: string, id: string): Promise<boolean> =>
  (await tx('looks').where({ user_id: userId, id }).delete()) === 1;
