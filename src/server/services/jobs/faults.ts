import type { Clock } from '@/server/clock';
import { clearFault, faults, noteFault } from '@/server/db/faults';
import { inTenant } from '@/server/db/pool';
import { codeOfError, log } from '@/server/log';
import type { Actor } from '@/server/services/accounts/actor';
import { authorise } from '@/server/services/accounts/authorise';

/** Writes down that a row of an organisation could not be swept, and why. */
export async function faultAt(
  row: { organisationId: string; sweep: string; subject: string; error: unknown },
  clock: Clock,
): Promise<void> {
  const code = codeOfError(row.error);
  const { organisationId, sweep: name, subject } = row;
  log.fault(row.error, { sweep: name, organisation: organisationId }, 'a row is at fault and was passed over');
  await inTenant(organisationId, (tx) =>
    noteFault(tx, { organisation_id: organisationId, sweep: name, subject, code, at: new Date(clock.now()) }),
  );
}

export const faultIsOver = (organisationId: string, name: string, subject: string): Promise<unknown> =>
  inTenant(organisationId, (tx) => clearFault(tx, name, subject));

export type ShownFault = { sweep: string; code: string; count: number; first: string; last: string };

/** What goes wrong again and again for an organisation without anybody asking for it. Error: NOT_ALLOWED. */
export async function listFaults(actor: Actor): Promise<ShownFault[]> {
  authorise(actor, 'fault.read');
  const rows = await inTenant(actor, faults);
  return rows.map(({ sweep: name, code, count, first_at, last_at }) => ({
    sweep: name,
    code,
    count,
    first: first_at.toISOString(),
    last: last_at.toISOString(),
  }));
}
