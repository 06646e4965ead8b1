import { Refusal } from '@/core/errors';
import type { Clock } from '@/server/clock';
import { card } from '@/server/db/cards/cards';
import { inTenant } from '@/server/db/pool';
import { copyById, markCopy } from '@/server/db/wild/copies';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise, authoriseFor } from '@/server/services/accounts/authorise';

/** Marks a copy as dealt with, or takes the mark away: it is written anew, replaced or thrown away. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function setCopyDone(actor: Actor, id: string, done: boolean, clock: Clock): Promise<void> {
  authorise(actor, 'hand-out.make');
  await inTenant(actor, async (tx) => {
    const copy = await copyById(tx, id);
    const owner = copy && (await card(tx, copy.card_id));
    // What was saved or sent is nobody's to deal with.
    if (!copy || !owner || copy.channel === 'file' || copy.channel === 'mail') throw new Refusal({ code: 'NOT_FOUND' });
    authoriseFor(actor, 'hand-out.make', owner.record_id);
    await markCopy(tx, { id, cardId: copy.card_id }, done ? new Date(clock.now()) : null);
    await recordAudit(tx, actor, done ? 'copy.done' : 'copy.not-done', { kind: 'card', id: copy.card_id }, clock);
  });
}
