import { randomUUID } from 'node:crypto';
import { dayOf } from '@/core/response';
import type { Clock } from '@/server/clock';
import { insertOccasion, occasionsFrom } from '@/server/db/placements';
import { inTenant } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise } from '@/server/services/accounts/authorise';

/** A fair or meeting: days are dates, `YYYY-MM-DD`, the last one included. */
export type Occasion = { id: string; name: string; place: string; firstDay: string; lastDay: string };

/** Occasions of the organisation that are not over, by its own time. Errors: NOT_ALLOWED. */
export async function listOccasions(actor: Actor, clock: Clock): Promise<Occasion[]> {
  authorise(actor, 'hand-out.read');
  const today = dayOf(clock.now(), actor.organisation.timeZone);
  const rows = await inTenant(actor.organisationId, (tx) => occasionsFrom(tx, today));
  return rows.map(({ id, name, place, first_day, last_day }) => ({
    id,
    name,
    place,
    firstDay: first_day,
    lastDay: last_day,
  }));
}

/** A new occasion. Errors: NOT_ALLOWED. */
export async function makeOccasion(actor: Actor, input: Omit<Occasion, 'id'>, clock: Clock): Promise<{ id: string }> {
  authorise(actor, 'hand-out.make');
  const id = randomUUID();
  await inTenant(actor.organisationId, async (tx) => {
    const { name, place, firstDay, lastDay } = input;
    await insertOccasion(tx, {
      id,
      organisation_id: actor.organisationId,
      name,
      place,
      first_day: firstDay,
      last_day: lastDay,
    });
    await recordAudit(tx, actor, 'occasion.made', { kind: 'occasion', id }, clock);
  });
  return { id };
}
