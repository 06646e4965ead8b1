import type { Backdrop } from '@/core/backdrop';
import type { Piece } from '@/core/print';
import type { Tx } from '../pool';
import { recountCopies } from '../wild/count';

export const setPiece = (tx: Tx, id: string, piece: Piece) =>
  tx('hand_outs')
    .where({ id })
    .update({ print: JSON.stringify(piece) });

export const setBackdrop = (tx: Tx, id: string, backdrop: Backdrop) =>
  tx('hand_outs')
    .where({ id })
    .update({ backdrop: JSON.stringify(backdrop) });

/** Copies of a printed piece that are out: the day as `YYYY-MM-DD`. */
export type RunRow = {
  id: string;
  organisation_id: string;
  hand_out_id: string;
  printed_on: string;
  copies: number;
  place: string;
  revision: number;
  created_at: Date;
};

/** So many runs of a piece are told, the latest first. */
const RUNS_TOLD = 50;

export const runsOf = async (tx: Tx, handOutId: string): Promise<RunRow[]> =>
  tx('print_runs')
    .where({ hand_out_id: handOutId })
    .orderByRaw('print_runs.printed_on DESC, print_runs.created_at DESC')
    .limit(RUNS_TOLD)
    .select('*', tx.raw(`to_char(printed_on, 'YYYY-MM-DD') AS printed_on`));

export const insertRun = (tx: Tx, row: RunRow) => tx('print_runs').insert(row).onConflict('id').ignore();

type RunChange = Pick<RunRow, 'printed_on' | 'copies' | 'place'>;
export const changeRun = (tx: Tx, handOutId: string, id: string, change: RunChange): Promise<number> =>
  tx('print_runs').where({ id, hand_out_id: handOutId }).update(change);

export async function dropRun(tx: Tx, handOutId: string, id: string): Promise<number> {
  const dropped = await tx('print_runs').where({ id, hand_out_id: handOutId }).delete();
  await recountCopies(tx, { handOut: handOutId });
  return dropped;
}

export const countRuns = async (tx: Tx, handOutId: string): Promise<number> => {
  const row = await tx('print_runs').where({ hand_out_id: handOutId }).count<{ count: string }>('* as count').first();
  return Number(row?.count ?? 0);
};
