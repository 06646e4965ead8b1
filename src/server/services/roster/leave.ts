import { cardsOfRecord, cardForUpdate, setCardState } from '@/server/db/cards/cards';
import { touchCard } from '@/server/db/cards/directory';
import { dayOf } from '@/core/response';
import { deleteSessionsOf, organisation } from '@/server/db/accounts/accounts';
import { passLeads } from '@/server/db/contacts/leads';
import { heirOfAll, holderOfCard } from '@/server/db/contacts/replies';
import { inTenant, outsideTenants, type Tx } from '@/server/db/pool';
import { dueLeavers, endSignIn, staffById, writeStaff } from '@/server/db/roster/staff';
import type { Clock } from '@/server/clock';
import { faultAt, faultIsOver } from '@/server/services/jobs/faults';
import { companyDefaults } from '@/server/services/organisation/company-defaults';

/**
 * Sees to a leaver whose last day has come: their sign-in ends, and their published cards rest, leading to the desk's or colleague's card that
 * was chosen, as long as that is published. Leads that they shared go to whoever holds that card, else to an owner.
 */
async function leaveNow(tx: Tx, organisationId: string, recordId: string, clock: Clock): Promise<void> {
  const cards = (await cardsOfRecord(tx, recordId)).filter(({ state }) => state === 'published').map(({ id }) => id);
  const locked = [];
  for (const id of cards.sort()) locked.push(await cardForUpdate(tx, id));
  const row = await staffById(tx, recordId);
  if (!row?.leaves_on || row.left_on === row.leaves_on) return;
  // By the date where the organisation is.
  const owner = await organisation(tx, organisationId);
  if (!owner || row.leaves_on > dayOf(clock.now(), owner.time_zone)) return;
  const wanted = row.roster.instead ?? null;
  const other = wanted === null || cards.includes(wanted) ? undefined : await cardForUpdate(tx, wanted);
  const instead = other?.state === 'published' ? other.id : null;
  const notice = (await companyDefaults(tx, organisationId)).texts.resting;
  for (const card of locked) {
    if (card?.state !== 'published') continue;
    await setCardState(tx, card.id, { state: 'resting', notice, instead });
    await touchCard(tx, card.id, organisationId);
  }
  const heir = other ? await holderOfCard(tx, other.id) : await heirOfAll(tx);
  for (const user of await endSignIn(tx, recordId, new Date(clock.now()))) {
    await deleteSessionsOf(tx, user, null);
    if (heir) await passLeads(tx, user, heir.id);
  }
  await writeStaff(tx, recordId, { left_on: row.leaves_on });
}

/** Sees to everybody whose last day has come, in any organisation; one at fault costs only themselves. */
export async function seeToLeavers(clock: Clock): Promise<void> {
  const due = await outsideTenants((db) => dueLeavers(db, new Date(clock.now())));
  for (const { organisation_id: organisationId, record_id: recordId } of due)
    try {
      await inTenant(organisationId, (tx) => leaveNow(tx, organisationId, recordId, clock));
      await faultIsOver(organisationId, 'leavers', recordId);
    } catch (error) {
      await faultAt({ organisationId, sweep: 'leavers', subject: recordId, error }, clock);
    }
}
