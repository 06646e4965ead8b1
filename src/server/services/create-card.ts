import { randomUUID } from 'node:crypto';
import { isPrivate, NOWHERE, reconcile, startingLines, startOf, type Audience, type Line } from '@/core/card';
import { Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import type { PersonRecord } from '@/core/record';
import { card, cardsOfRecord, insertCard } from '@/server/db/cards';
import { inTenant, type Tx } from '@/server/db/pool';
import { record } from '@/server/db/records';
import type { Clock } from '@/server/clock';
import type { Actor } from './actor';
import { writeDown } from './audit';
import { authorise, authoriseFor } from './authorise';

/** What a new card starts from: the record alone, another card, or a trade's starting card. */
export type CardSource = { card: string } | { start: string } | null;

/**
 * A further card of a person for an audience, safely ticked; a private audience also gets private details, and only it.
 * Errors: NOT_FOUND, TOO_MANY_CARDS.
 */
export async function createCard(
  actor: Actor,
  input: { recordId: string; audience: string; isPrivate: boolean; without?: Audience['without']; from?: CardSource },
  clock: Clock,
): Promise<{ cardId: string }> {
  authorise(actor, 'card.create');
  return inTenant(actor.organisationId, async (tx) => {
    const person = await record(tx, input.recordId);
    if (!person) throw new Refusal({ code: 'NOT_FOUND' });
    authoriseFor(actor, 'card.create', input.recordId);
    const others = await cardsOfRecord(tx, input.recordId);
    if (others.length >= LIMITS.cards) throw new Refusal({ code: 'TOO_MANY_CARDS', limit: LIMITS.cards });
    const from = input.from ?? null;
    const audience = { isPrivate: input.isPrivate, without: input.without ?? [] };
    const cardId = randomUUID();
    await insertCard(tx, {
      id: cardId,
      organisation_id: actor.organisationId,
      record_id: input.recordId,
      audience: input.audience,
      is_private: input.isPrivate,
      lines:
        from && 'card' in from
          ? await linesOfCard(tx, from.card, input.recordId, person.body, audience)
          : startingLines(person.body, audience, startOf(from?.start ?? null)),
      start: from && 'start' in from ? (startOf(from.start)?.key ?? null) : null,
      updated_at: new Date(clock.now()),
    });
    await writeDown(tx, actor, 'card.made', { kind: 'card', id: cardId }, clock);
    return { cardId };
  });
}

/** The lines of another card of the same person; what is private, or left out for this audience, loses its ticks. */
async function linesOfCard(
  tx: Tx,
  id: string,
  recordId: string,
  body: PersonRecord,
  audience: Pick<Audience, 'isPrivate' | 'without'>,
): Promise<Line[]> {
  const other = await card(tx, id);
  if (other?.record_id !== recordId) throw new Refusal({ code: 'NOT_FOUND' });
  const left = new Set<string>(audience.without);
  return reconcile(other.lines, body).map((line) => {
    const detail = line.own ?? body.details.find((each) => each.id === line.detail);
    const hidden = detail && (left.has(detail.kind) || (!audience.isPrivate && isPrivate(detail, body)));
    return hidden ? { ...line, ticks: NOWHERE } : line;
  });
}
