import { randomUUID } from 'node:crypto';
import { copiedLines, startingBlocks, startingLines, startOf, type Audience } from '@/core/card';
import { Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import type { LayoutName } from '@/core/look';
import { lineTypeOf } from '@/core/record/line-type';
import { card, cardsOfRecord, insertCard, type CardRow } from '@/server/db/cards/cards';
import { countAlone } from '@/server/db/locks';
import { inTenant, type Tx } from '@/server/db/pool';
import { record } from '@/server/db/cards/records';
import type { Clock } from '@/server/clock';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise, authoriseFor } from '@/server/services/accounts/authorise';
import { companyDefaults } from '@/server/services/organisation/company-defaults';
import { refuseOwned } from '@/server/services/house/owners';
import { firstLook } from '@/server/services/house/house-style';

/** What a new card starts from: the record alone, another card, or a trade's starting card. */
export type CardSource = { card: string } | { start: string } | null;

/**
 * A further card of a person for an audience, safely ticked; a private audience also gets private details, and only it.
 * Errors: NOT_FOUND, TOO_MANY_CARDS.
 */
export async function createCard(
  actor: Actor,
  input: {
    recordId: string;
    audience: string;
    isPrivate: boolean;
    without?: Audience['without'];
    from?: CardSource;
    layout?: LayoutName;
  },
  clock: Clock,
): Promise<{ cardId: string }> {
  authorise(actor, 'card.create');
  return inTenant(actor, async (tx) => {
    const person = await record(tx, input.recordId);
    if (!person) throw new Refusal({ code: 'NOT_FOUND' });
    authoriseFor(actor, 'card.create', input.recordId);
    await countAlone(tx, actor.organisationId, `cards of ${input.recordId}`);
    const others = await cardsOfRecord(tx, input.recordId);
    if (others.length >= LIMITS.cards) throw new Refusal({ code: 'TOO_MANY_CARDS', limit: LIMITS.cards });
    const from = input.from ?? null;
    const audience = { isPrivate: input.isPrivate, without: input.without ?? [] };
    const cardId = randomUUID();
    const start = from && 'start' in from ? startOf(from.start) : null;
    const other = from && 'card' in from ? await cardOf(tx, from.card, input.recordId) : null;
    const lines =
      other !== null
        ? copiedLines(other.lines, person.body, audience, lineTypeOf)
        : startingLines(person.body, audience, start, lineTypeOf);
    if (other) {
      const [before, after] = [other.lines, lines].map((of) => ({ lines: of, words: other.words }));
      await refuseOwned(
        tx,
        actor,
        other,
        { record: person.body, card: before! },
        { record: person.body, card: after! },
      );
    }
    await insertCard(tx, {
      id: cardId,
      organisation_id: actor.organisationId,
      record_id: input.recordId,
      audience: input.audience,
      is_private: input.isPrivate,
      lines,
      ...(other
        ? {
            blocks: other.blocks,
            opens: other.opens,
            words: other.words,
            look: { ...other.look, overrides: [] },
            language: other.language,
          }
        : {
            look: await firstLook(tx, input.layout),
            language: (await companyDefaults(tx, actor.organisationId)).languages[0] ?? null,
          }),
      ...(start ? { blocks: startingBlocks(start, () => randomUUID().slice(0, 13)) } : {}),
      start: start?.key ?? null,
      updated_at: new Date(clock.now()),
    });
    await recordAudit(tx, actor, 'card.made', { kind: 'card', id: cardId }, clock);
    return { cardId };
  });
}

/** Another card of the same person. Error: NOT_FOUND. */
async function cardOf(tx: Tx, id: string, recordId: string): Promise<CardRow> {
  const other = await card(tx, id);
  if (other?.record_id !== recordId) throw new Refusal({ code: 'NOT_FOUND' });
  return other;
}
