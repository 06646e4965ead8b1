import { Refusal } from '@/core/errors';
import { card } from '@/server/db/cards/cards';
import { sortInbox } from '@/server/db/response/events';
import { lastUses } from '@/server/db/response/response';
import { inTenant, outsideTenants } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';
import { authorise, authoriseFor } from '@/server/services/accounts/authorise';

/** When each hand-out of a card was last used, by its id, and the short address under an empty one: local days (`YYYY-MM-DD`). Errors: NOT_ALLOWED, NOT_FOUND. */
export async function readLastUses(actor: Actor, cardId: string): Promise<Record<string, string>> {
  authorise(actor, 'response.read');
  await outsideTenants(sortInbox);
  return inTenant(actor, async (tx) => {
    const row = await card(tx, cardId);
    if (!row) throw new Refusal({ code: 'NOT_FOUND' });
    authoriseFor(actor, 'response.read', row.record_id);
    const rows = await lastUses(tx, cardId, actor.organisation.timeZone);
    return Object.fromEntries(rows.map(({ hand_out_id, day }) => [hand_out_id ?? '', day]));
  });
}
