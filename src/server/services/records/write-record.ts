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
  const row = { written_name: writtenName(body.name), body, updated_at: new Date(clock.now()) };
  if (!(await updateRecord(tx, id, version, row))) return false;
  await judgeExposed(tx, [id]);
  return true;
}
