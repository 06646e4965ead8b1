import { randomUUID } from 'node:crypto';
import { z } from 'zod';
import { Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { dayOf } from '@/core/response';
import type { Clock } from '@/server/clock';
import {
  deleteOccasion,
  handOutsAt,
  insertOccasion,
  namesOfPlacements,
  occasionsFrom,
  updateOccasion,
} from '@/server/db/hand-outs/placements';
import { inTenant } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise } from '@/server/services/accounts/authorise';

/** A fair or meeting: days are dates, `YYYY-MM-DD`, the last one included. */
export type Occasion = { id: string; name: string; place: string; firstDay: string; lastDay: string };

const day = z.iso.date();

/** An occasion as it is typed. */
export const OccasionSchema = z
  .object({
    name: z.string().trim().min(1).max(LIMITS.placement),
    place: z.string().trim().max(LIMITS.placement).default(''),
    firstDay: day,
    lastDay: day,
  })
  .refine(({ firstDay, lastDay }) => firstDay <= lastDay, { path: ['lastDay'] });
type Typed = z.infer<typeof OccasionSchema>;
const rowOf = ({ name, place, firstDay, lastDay }: Typed) => ({
  ...{ name, place, first_day: firstDay, last_day: lastDay },
});

/** Occasions of the organisation that are not over, by its own time. Errors: NOT_ALLOWED. */
export async function listOccasions(actor: Actor, clock: Clock): Promise<Occasion[]> {
  authorise(actor, 'hand-out.read');
  const today = dayOf(clock.now(), actor.organisation.timeZone);
  const rows = await inTenant(actor, (tx) => occasionsFrom(tx, today));
  return rows.map(({ id, name, place, first_day, last_day }) => ({
    id,
    name,
    place,
    firstDay: first_day,
    lastDay: last_day,
  }));
}

/** A new occasion. Errors: NOT_ALLOWED. */
export async function makeOccasion(actor: Actor, input: Typed, clock: Clock): Promise<{ id: string }> {
  authorise(actor, 'hand-out.make');
  const id = randomUUID();
  await inTenant(actor, async (tx) => {
    await insertOccasion(tx, { id, organisation_id: actor.organisationId, ...rowOf(input) });
    await recordAudit(tx, actor, 'occasion.made', { kind: 'occasion', id }, clock);
  });
  return { id };
}

/** Sets right what an occasion is called, where it is and when. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function changeOccasion(actor: Actor, id: string, input: Typed, clock: Clock): Promise<void> {
  authorise(actor, 'hand-out.make');
  await inTenant(actor, async (tx) => {
    if ((await updateOccasion(tx, id, rowOf(input))) === 0) throw new Refusal({ code: 'NOT_FOUND' });
    await recordAudit(tx, actor, 'occasion.changed', { kind: 'occasion', id }, clock);
  });
}

/** Removes an occasion that no hand-out is for: the figures of one that was stay under its name. Errors: NOT_ALLOWED, NOT_FOUND, OCCASION_USED. */
export async function removeOccasion(actor: Actor, id: string, clock: Clock): Promise<void> {
  authorise(actor, 'hand-out.make');
  await inTenant(actor, async (tx) => {
    const count = await handOutsAt(tx, id);
    if (count > 0) throw new Refusal({ code: 'OCCASION_USED', count });
    if ((await deleteOccasion(tx, id)) === 0) throw new Refusal({ code: 'NOT_FOUND' });
    await recordAudit(tx, actor, 'occasion.removed', { kind: 'occasion', id }, clock);
  });
}

/** Places that hand-outs of the organisation are at, those lately used first. Errors: NOT_ALLOWED. */
export async function listPlacements(actor: Actor): Promise<string[]> {
  authorise(actor, 'hand-out.read');
  return inTenant(actor, namesOfPlacements);
}
