import { leavingOf, privacyOf } from '@/core/card';
import { Refusal } from '@/core/errors';
import { writtenName } from '@/core/record';
import type { SharedCard } from '@/core/shown';
import type { Clock } from '@/server/clock';
import { card } from '@/server/db/cards/cards';
import { record } from '@/server/db/cards/records';
import { inTenant } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';
import { authorise } from '@/server/services/accounts/authorise';
import { loadPublished } from '@/server/services/publishing/load-published';
import { noteAttached, takenOf } from '@/server/services/wild/note-copy';
import { linkOf, ownHandOut } from './own';
import { reusedHandOut, type Reused } from './reused';
import { contactOf } from './signature';

/** A card to be shared from a device; its link tells what came of that. Errors: those of {@link reusedHandOut}. */
export async function shareCard(
  actor: Actor,
  cardId: string,
  wanted: Omit<Reused, 'channel'>,
  clock: Clock,
): Promise<SharedCard> {
  authorise(actor, 'hand-out.make');
  const { id, code } = await reusedHandOut(actor, cardId, { ...wanted, channel: 'share' }, clock);
  const served = await loadPublished({ code }, clock);
  // The hand-out may rest by itself.
  if (served?.state !== 'published') throw new Refusal({ code: 'CARD_NOT_PUBLISHED' });
  const { name, bytes } = contactOf(served);
  const body = await inTenant(actor, async (tx) => {
    const row = await card(tx, cardId);
    return row && (await record(tx, row.record_id))?.body;
  });
  if (!body) throw new Refusal({ code: 'NOT_FOUND' });
  const leaving = leavingOf(served.composition, null, ['file'], (detail) => privacyOf(detail, body));
  return {
    id,
    link: linkOf({ organisation_id: actor.organisationId, code }),
    name: writtenName(served.composition.name),
    file: { name, text: bytes.toString('utf8') },
    leaving: leaving.map(({ value }) => value),
    country: actor.organisation.country,
  };
}

/** Counts a contact that a device shared, once it did. Errors: NOT_ALLOWED, NOT_FOUND, CARD_NOT_PUBLISHED. */
export async function cardShared(actor: Actor, id: string, clock: Clock): Promise<void> {
  authorise(actor, 'hand-out.make');
  const { row } = await inTenant(actor, (tx) => ownHandOut(tx, actor, id, 'hand-out.make'));
  if (row.channel !== 'share') throw new Refusal({ code: 'NOT_FOUND' });
  const served = await loadPublished({ code: row.code }, clock);
  if (served?.state !== 'published') throw new Refusal({ code: 'CARD_NOT_PUBLISHED' });
  await inTenant(actor, (tx) =>
    noteAttached(tx, takenOf(row, served, clock), served.composition, actor.organisation.country),
  );
}
