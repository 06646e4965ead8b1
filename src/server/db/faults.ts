import type { Tx } from './pool';

/** What a sweep could not do for one row of an organisation: since when, how often, and why (a code of ours or an SQLSTATE). */
export type FaultRow = {
  sweep: string;
  subject: string;
  code: string;
  count: number;
  first_at: Date;
  last_at: Date;
};

export const faults = async (tx: Tx): Promise<FaultRow[]> =>
  tx('faults').orderBy('last_at', 'desc').limit(100).select('sweep', 'subject', 'code', 'count', 'first_at', 'last_at');

export const noteFault = (
  tx: Tx,
  row: { organisation_id: string; sweep: string; subject: string; code: string; at: Date },
) => {
  const { at, ...rest } = row;
  return tx('faults')
    .insert({ ...rest, first_at: at, last_at: at })
    .onConflict(['organisation_id', 'sweep', 'subject'])
    .merge({ code: row.code, count: tx.raw('faults.count + 1'), last_at: at });
};

export const clearFault = (tx: Tx, sweep: string, subject: string) => tx('faults').where({ sweep, subject }).delete();
