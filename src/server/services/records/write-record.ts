import { writtenName, type PersonRecord } from '@/core/record';
import type { Clock } from '@/server/clock';
import { updateRecord } from '@/server/db/cards/records';
import type { Tx } from '@/server/db/pool';
import { judgeExposed } from '@/server/services/wild/judge';

/** Writes a record over the version that was seen, and what of it is private where it is public by now; false when somebody was faster. */
export async function writeRecord(
  tx: Tx,
  id: string,
  version: number,
  body: PersonRecord,
  clock: Clock,
): Promise<boolean> {
  if (!(await writeUnjudged(tx, id, version, body, clock))) return false;
  await judgeExposed(tx, [id]);
  return true;
}

/** The same where several are written and then judged together. */
export const writeUnjudged = (
  tx: Tx,
  id: string,
  version: number,
  body: PersonRecord,
  clock: Clock,
): Promise<boolean> =>
  updateRecord(tx, id, version, { written_name: writtenName(body.name), body, updated_at: new Date(clock.now()) });
