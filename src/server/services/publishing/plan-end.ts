import { Refusal } from '@/core/errors';
import { deletePlan, writePlan, type PlanRow } from '@/server/db/cards/plans';
import type { Tx } from '@/server/db/pool';
import type { Clock } from '@/server/clock';
import type { Actor } from '@/server/services/accounts/actor';

/** When a card ends by itself (ISO 8601), and with what. */
export type Ends = { at: string; with: 'resting' | 'retired' };

/** A plan of nothing, made by this member now. */
export const emptyPlan = (actor: Actor, cardId: string): PlanRow => ({
  card_id: cardId,
  organisation_id: actor.organisationId,
  publish_at: null,
  address: '',
  note: '',
  ends_at: null,
  ends_with: null,
  planned_by: actor.userId,
  composition: null,
  draft: null,
  problem: null,
  tries: 0,
  retry_at: null,
});

/** In the act of publishing: what was planned before is over, and the card ends as said, or does not. Error: PLAN_IN_THE_PAST. */
export async function planEnd(tx: Tx, actor: Actor, cardId: string, ends: Ends | null, clock: Clock): Promise<void> {
  if (!ends) return void (await deletePlan(tx, cardId));
  const at = new Date(ends.at);
  if (at.getTime() <= clock.now()) throw new Refusal({ code: 'PLAN_IN_THE_PAST' });
  await writePlan(tx, { ...emptyPlan(actor, cardId), ends_at: at, ends_with: ends.with });
}
