import { Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { cleanText } from '@/core/record';
import { card, cardForUpdate, setCardState } from '@/server/db/cards/cards';
import { latestRevision } from '@/server/db/cards/revisions';
import { touchCard } from '@/server/db/cards/directory';
import { inTenant } from '@/server/db/pool';
import type { Clock } from '@/server/clock';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise, authoriseFor } from '@/server/services/accounts/authorise';

/**
 * Lets a published card rest, retires it, or wakes it up again as it was published last. While it rests or after it was retired a
 * recipient reads `notice` and, if chosen, is led to the colleague's card `instead`. Its addresses and codes stay its own.
 * Errors: NOT_FOUND, CARD_NOT_OUT, COLLEAGUE_NOT_OUT.
 */
export async function setState(
  actor: Actor,
  id: string,
  input: { state: 'published' | 'resting' | 'retired'; notice: string; instead: string | null },
  clock: Clock,
): Promise<{ state: string }> {
  authorise(actor, 'card.publish');
  return inTenant(actor, async (tx) => {
    const row = await cardForUpdate(tx, id);
    if (!row) throw new Refusal({ code: 'NOT_FOUND' });
    authoriseFor(actor, 'card.publish', row.record_id);
    if (row.state === 'draft' || !(await latestRevision(tx, id))) throw new Refusal({ code: 'CARD_NOT_OUT' });
    if (input.instead) {
      const other = input.instead === id ? undefined : await card(tx, input.instead);
      if (other?.state !== 'published') throw new Refusal({ code: 'COLLEAGUE_NOT_OUT' });
    }
    const notice = cleanText(input.notice).text.slice(0, LIMITS.text);
    await setCardState(tx, id, { state: input.state, notice, instead: input.instead });
    await touchCard(tx, id, actor.organisationId);
    await recordAudit(tx, actor, 'card.state-set', { kind: 'card', id }, clock, { state: input.state });
    return { state: input.state };
  });
}
