import { randomBytes, randomUUID } from 'node:crypto';
import { codeFrom, readCode } from '@/core/address';
import { Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { cleanLine } from '@/core/record';
import type { ShownSpares } from '@/core/shown';
import type { Clock } from '@/server/clock';
import { card } from '@/server/db/cards/cards';
import { touchCard } from '@/server/db/cards/directory';
import { insertHandOut } from '@/server/db/hand-outs/hand-outs';
import { placementNamed } from '@/server/db/hand-outs/placements';
import { countSpares, insertSpares, pointSpare, spares, takeSpare } from '@/server/db/hand-outs/spares';
import { inTenant } from '@/server/db/pool';
import { publicUrlOf } from '@/server/env';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise, authoriseFor } from '@/server/services/accounts/authorise';
import { linkOf } from './own';

/** The codes of an organisation that point at no card yet. Error: NOT_ALLOWED. */
export async function listSpares(actor: Actor): Promise<ShownSpares> {
  authorise(actor, 'code.reserve');
  const { organisationId: organisation_id } = actor;
  const rows = await inTenant(actor.organisationId, (tx) => spares(tx, LIMITS.spareCodes));
  return {
    publicUrl: publicUrlOf(organisation_id),
    codes: rows.map(({ code, placement, made_at }) => ({
      ...{ code, link: linkOf({ organisation_id, code }), placement, made: made_at.toISOString() },
    })),
  };
}

/** Makes codes in advance, to be printed before anybody knows whose they will be. Errors: NOT_ALLOWED, INPUT, SPARES_FULL. */
export async function makeSpares(
  actor: Actor,
  { count, placement: typed }: { count: number; placement: string },
  clock: Clock,
): Promise<ShownSpares> {
  authorise(actor, 'code.reserve');
  const placement = cleanLine(typed).text.slice(0, LIMITS.placement);
  if (!placement) throw new Refusal({ code: 'INPUT', field: 'placement' });
  if (!Number.isInteger(count) || count < 1 || count > LIMITS.sparesAtOnce)
    throw new Refusal({ code: 'INPUT', field: 'count' });
  const made_at = new Date(clock.now());
  await inTenant(actor.organisationId, async (tx) => {
    if ((await countSpares(tx)) + count > LIMITS.spareCodes)
      throw new Refusal({ code: 'SPARES_FULL', limit: LIMITS.spareCodes });
    const codes = Array.from({ length: count }, () => codeFrom(randomBytes(8)));
    const own = { organisation_id: actor.organisationId, placement, made_at };
    await insertSpares(
      tx,
      codes.map((code) => ({ code, ...own })),
    );
    const subject = { kind: 'organisation', id: actor.organisationId } as const;
    await recordAudit(tx, actor, 'codes.reserved', subject, clock, { count });
  });
  return listSpares(actor);
}

/**
 * Has a code that was made in advance open a card from now on, as a live hand-out of it. Typed in any case, with or without its address. Errors:
 * NOT_ALLOWED, NOT_FOUND, CARD_NOT_PUBLISHED, CODE_NOT_SPARE.
 */
export async function giveSpare(
  actor: Actor,
  { cardId, code: typed, placement: wanted }: { cardId: string; code: string; placement: string },
  clock: Clock,
): Promise<{ id: string }> {
  authorise(actor, 'hand-out.make');
  const code = readCode(
    typed
      .trim()
      .replace(/[?#].*$/, '')
      .split('/')
      .at(-1) ?? '',
  );
  return inTenant(actor.organisationId, async (tx) => {
    const row = await card(tx, cardId);
    if (!row) throw new Refusal({ code: 'NOT_FOUND' });
    authoriseFor(actor, 'hand-out.make', row.record_id);
    if (row.state !== 'published') throw new Refusal({ code: 'CARD_NOT_PUBLISHED' });
    const spare = code && (await takeSpare(tx, code));
    if (!spare) throw new Refusal({ code: 'CODE_NOT_SPARE' });
    const placement = cleanLine(wanted).text.slice(0, LIMITS.placement) || spare.placement;
    const id = randomUUID();
    await insertHandOut(tx, {
      ...{ id, organisation_id: actor.organisationId, card_id: cardId, code: spare.code, placement },
      placement_id: await placementNamed(tx, actor.organisationId, placement),
      ...{ channel: 'code', frozen: null, revision: null, content: { what: 'card' }, occasion_id: null },
      created_at: new Date(clock.now()),
    });
    await pointSpare(tx, spare.code, { card_id: cardId, hand_out_id: id });
    await touchCard(tx, cardId, actor.organisationId);
    await recordAudit(tx, actor, 'hand-out.made', { kind: 'hand-out', id }, clock);
    return { id };
  });
}
