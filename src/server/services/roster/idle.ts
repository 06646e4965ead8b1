import { Refusal } from '@/core/errors';
import { hasEnded } from '@/core/jobs';
import { job } from '@/server/db/jobs/jobs';
import type { Tx } from '@/server/db/pool';
import { runForUpdate, type RunRow } from '@/server/db/roster/runs';

/** A run that no job works on and that was not carried out yet, locked. Errors: NOT_FOUND, RUN_BUSY, RUN_ENDED. */
export async function openIdle(
  tx: Tx,
  id: string,
  states: RunRow['state'][] = ['mapping', 'reading', 'ready'],
): Promise<RunRow> {
  const row = await runForUpdate(tx, id);
  if (!row) throw new Refusal({ code: 'NOT_FOUND' });
  const busy = row.state === 'reading' || row.state === 'running' || row.state === 'undoing';
  // A job that was stopped or failed for good leaves its run to go on with.
  const working = busy && row.job_id ? await job(tx, row.job_id) : undefined;
  if (working && !hasEnded(working.state)) throw new Refusal({ code: 'RUN_BUSY' });
  if (!states.includes(row.state)) throw new Refusal({ code: 'RUN_ENDED' });
  return row;
}
