import { FIRST_AUDIENCES, type Audience } from '@/core/card';
import { organisation, setAudiences } from '@/server/db/accounts/accounts';
import { inTenant } from '@/server/db/pool';
import type { Clock } from '@/server/clock';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise } from '@/server/services/accounts/authorise';

/** The audience presets of the organisation: its own, else ours. Error: NOT_ALLOWED. */
export async function readAudiences(actor: Actor): Promise<Audience[]> {
  authorise(actor, 'card.read');
  return presetsOf(actor);
}

/** The same for whoever may change them. Error: NOT_ALLOWED. */
export async function audiencesToEdit(actor: Actor): Promise<Audience[]> {
  authorise(actor, 'audiences.write');
  return presetsOf(actor);
}

async function presetsOf(actor: Actor): Promise<Audience[]> {
  const row = await inTenant(actor, (tx) => organisation(tx, actor.organisationId));
  return row?.audiences ?? [...FIRST_AUDIENCES];
}

/** Sets the organisation's audience presets; null goes back to ours. Cards that were made before stay as they are. Error: NOT_ALLOWED. */
export async function saveAudiences(
  actor: Actor,
  audiences: Audience[] | null,
  clock: Clock,
): Promise<{ audiences: Audience[] }> {
  authorise(actor, 'audiences.write');
  await inTenant(actor, async (tx) => {
    await setAudiences(tx, actor.organisationId, audiences);
    await recordAudit(tx, actor, 'audiences.changed', { kind: 'organisation', id: actor.organisationId }, clock);
  });
  return { audiences: audiences ?? [...FIRST_AUDIENCES] };
}
