import { orRefuse, Refusal } from '@/core/errors';
import { profileTexts, readParameters } from '@/core/profile';
import type { ShownProfile } from '@/core/shown';
import type { Clock } from '@/server/clock';
import { touchCard } from '@/server/db/cards/directory';
import { changeHandOut } from '@/server/db/hand-outs/hand-outs';
import { inTenant } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise } from '@/server/services/accounts/authorise';
import { loadPublished } from '@/server/services/publishing/load-published';
import { linkOf, ownHandOut } from './own';

/** What a profile page elsewhere is filled with: the link with its placement, a title and texts. Errors: NOT_ALLOWED, NOT_FOUND, CARD_NOT_PUBLISHED. */
export async function openProfile(actor: Actor, id: string, clock: Clock): Promise<ShownProfile> {
  authorise(actor, 'hand-out.read');
  const { row } = await inTenant(actor, (tx) => ownHandOut(tx, actor, id, 'hand-out.read'));
  if (row.channel !== 'profile') throw new Refusal({ code: 'NOT_FOUND' });
  const served = await loadPublished({ code: row.code }, clock);
  if (served?.state !== 'published') throw new Refusal({ code: 'CARD_NOT_PUBLISHED' });
  const { composition } = served;
  return {
    ...{ id, cardId: row.card_id, placement: row.placement, link: linkOf(row), parameters: row.parameters },
    ...profileTexts(composition, composition.language ?? 'en'),
  };
}

/** Keeps what links of the page carry where this hand-out led to it. Errors: NOT_ALLOWED, NOT_FOUND, INPUT. */
export async function saveParameters(
  actor: Actor,
  id: string,
  typed: string,
  clock: Clock,
): Promise<{ parameters: string }> {
  authorise(actor, 'hand-out.make');
  const parameters = orRefuse(readParameters(typed));
  await inTenant(actor, async (tx) => {
    const { row } = await ownHandOut(tx, actor, id, 'hand-out.make');
    if (row.channel !== 'profile') throw new Refusal({ code: 'NOT_FOUND' });
    await changeHandOut(tx, id, { parameters });
    await touchCard(tx, row.card_id, actor.organisationId);
    await recordAudit(tx, actor, 'hand-out.changed', { kind: 'hand-out', id }, clock);
  });
  return { parameters };
}
