import { Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { cleanLine } from '@/core/record';
import type { HandOutChannel } from '@/core/shown';
import type { Clock } from '@/server/clock';
import { card } from '@/server/db/cards/cards';
import { reusedOf } from '@/server/db/hand-outs/hand-outs';
import { occasion, placementNamed } from '@/server/db/hand-outs/placements';
import { violatedUnique } from '@/server/db/jobs/failures';
import { inTenant } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise, authoriseFor } from '@/server/services/accounts/authorise';
import { addHandOut } from '@/server/services/publishing/publish-card';

/** Channels whose hand-outs are no pieces of their own: one serves a card's placement and occasion again and again. */
export type ReusedChannel = Extract<HandOutChannel, 'message' | 'share' | 'profile'>;

export type Reused = { channel: ReusedChannel; placement: string; occasionId: string | null };

/** The hand-out of a published card for a placement and an occasion: the one that there is, or a new one. Errors: NOT_ALLOWED, NOT_FOUND, INPUT, CARD_NOT_PUBLISHED. */
export async function reusedHandOut(
  actor: Actor,
  cardId: string,
  wanted: Reused,
  clock: Clock,
): Promise<{ id: string; code: string }> {
  authorise(actor, 'hand-out.make');
  const found = () => foundHandOut(actor, cardId, wanted, clock);
  // Two who ask for the first one at once both find what one of them made.
  return found().catch((error: unknown) => {
    if (violatedUnique(error) !== 'reused_hand_out') throw error;
    return found();
  });
}

const foundHandOut = (actor: Actor, cardId: string, { channel, placement: typed, occasionId }: Reused, clock: Clock) =>
  inTenant(actor, async (tx) => {
    const row = await card(tx, cardId);
    if (!row) throw new Refusal({ code: 'NOT_FOUND' });
    authoriseFor(actor, 'hand-out.make', row.record_id);
    if (row.state !== 'published') throw new Refusal({ code: 'CARD_NOT_PUBLISHED' });
    const placement = cleanLine(typed).text.slice(0, LIMITS.placement);
    if (!placement) throw new Refusal({ code: 'INPUT', field: 'placement' });
    if (occasionId && !(await occasion(tx, occasionId))) throw new Refusal({ code: 'NOT_FOUND' });
    const placementId = await placementNamed(tx, actor.organisationId, placement);
    const known = await reusedOf(tx, { cardId, channel, placementId, occasionId });
    if (known) return { id: known.id, code: known.code };
    const made = await addHandOut(tx, actor.organisationId, cardId, placement, new Date(clock.now()), () => ({
      ...{ channel, frozen: null, revision: null, content: null, occasion_id: occasionId },
    }));
    await recordAudit(tx, actor, 'hand-out.made', { kind: 'hand-out', id: made.id }, clock);
    return made;
  });
