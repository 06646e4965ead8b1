import { randomBytes, randomUUID } from 'node:crypto';
import { codeFrom, readCode } from '@/core/address';
import { liveTag } from '@/core/code';
import { Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { cleanLine } from '@/core/record';
import type { ShownSpares } from '@/core/shown';
import type { Clock } from '@/server/clock';
import { card, firstPublished } from '@/server/db/cards/cards';
import { recordNames } from '@/server/db/cards/records';
import { touchCard } from '@/server/db/cards/directory';
import { insertHandOut, type TagState } from '@/server/db/hand-outs/hand-outs';
import { placementNamed } from '@/server/db/hand-outs/placements';
import {
  countSpares,
  insertSpares,
  isGivenSpare,
  pointSpare,
  spareNumbered,
  spares,
  takeNumbers,
  takeSpare,
  type SpareRow,
} from '@/server/db/hand-outs/spares';
import { inTenant, type Tx } from '@/server/db/pool';
import { publicUrlOf } from '@/server/env';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise, authoriseFor } from '@/server/services/accounts/authorise';
import { newTag } from './make';
import { linkOf } from './own';

/** The codes of an organisation that point at no card yet. Error: NOT_ALLOWED. */
export async function listSpares(actor: Actor): Promise<ShownSpares> {
  authorise(actor, 'code.reserve');
  const { organisationId: organisation_id } = actor;
  const rows = await inTenant(actor, (tx) => spares(tx, LIMITS.spareCodes));
  return {
    publicUrl: publicUrlOf(organisation_id),
    codes: rows.map(({ code, number, channel, placement, made_at }) => ({
      ...{ code, number, channel, link: linkOf({ organisation_id, code }), placement, made: made_at.toISOString() },
    })),
  };
}

/** Makes codes in advance, to be printed before anybody knows whose they will be. Errors: NOT_ALLOWED, INPUT, SPARES_FULL. */
export async function makeSpares(
  actor: Actor,
  { count, placement: typed, channel = 'code' }: { count: number; placement: string; channel?: 'code' | 'tag' },
  clock: Clock,
): Promise<ShownSpares> {
  authorise(actor, 'code.reserve');
  const placement = cleanLine(typed).text.slice(0, LIMITS.placement);
  if (!placement) throw new Refusal({ code: 'INPUT', field: 'placement' });
  if (!Number.isInteger(count) || count < 1 || count > LIMITS.sparesAtOnce)
    throw new Refusal({ code: 'INPUT', field: 'count' });
  const made_at = new Date(clock.now());
  await inTenant(actor, async (tx) => {
    if ((await countSpares(tx)) + count > LIMITS.spareCodes)
      throw new Refusal({ code: 'SPARES_FULL', limit: LIMITS.spareCodes });
    const codes = Array.from({ length: count }, () => codeFrom(randomBytes(8)));
    const own = { organisation_id: actor.organisationId, placement, made_at, channel };
    const first = await takeNumbers(tx, actor.organisationId, count);
    await insertSpares(
      tx,
      codes.map((code, at) => ({ code, number: first + at, ...own })),
    );
    const subject = { kind: 'organisation', id: actor.organisationId } as const;
    await recordAudit(tx, actor, 'codes.reserved', subject, clock, { count });
  });
  return listSpares(actor);
}

/** What is typed for one that was made in advance: its number, or its code, in any case, with or without its address. */
function readSpare(typed: string): { number: number } | { code: string } | null {
  const number = /^\s*(?:no\.?\s*|#\s*)?(\d{1,7})\s*$/i.exec(typed)?.[1];
  if (number) return { number: Number(number) };
  const code = readCode(
    typed
      .trim()
      .replace(/[?#].*$/, '')
      .split('/')
      .at(-1) ?? '',
  );
  return code ? { code } : null;
}

/** The code that is meant, taken away from those that wait. Errors: CODE_GIVEN, CODE_NOT_SPARE. */
async function taken(tx: Tx, typed: string): Promise<SpareRow> {
  const by = readSpare(typed);
  const code = by && ('code' in by ? by.code : await spareNumbered(tx, by.number));
  const spare = code && (await takeSpare(tx, code));
  if (spare) return spare;
  throw new Refusal({ code: by && (await isGivenSpare(tx, by)) ? 'CODE_GIVEN' : 'CODE_NOT_SPARE' });
}

/** The card that is meant: itself, or the first published one of somebody. Errors: NOT_FOUND, CARD_NOT_PUBLISHED. */
async function cardMeant(tx: Tx, actor: Actor, { cardId, recordId }: GivenTo): Promise<string> {
  if (cardId) return cardId;
  const [known] = recordId ? await recordNames(tx, [recordId]) : [];
  if (!known) throw new Refusal({ code: 'NOT_FOUND' });
  authoriseFor(actor, 'hand-out.make', known.id);
  const id = (await firstPublished(tx, [known.id])).get(known.id);
  if (!id) throw new Refusal({ code: 'CARD_NOT_PUBLISHED' });
  return id;
}

/** What is known of a blank tag: it was written with its address when it was made. */
const blankTag = (spare: SpareRow): TagState => ({
  ...newTag(liveTag({ what: 'card' }, linkOf(spare))),
  ...{ writtenAt: spare.made_at.toISOString(), writes: 1 },
});

/** Whose card a code opens: a card, or the first published one of a record. */
export type GivenTo = { cardId?: string; recordId?: string };

/**
 * Has a code or a tag that was made in advance open a card from now on, as a live hand-out of it; named by its number, or by its code. Errors:
 * NOT_ALLOWED, NOT_FOUND, CARD_NOT_PUBLISHED, CODE_NOT_SPARE, CODE_GIVEN.
 */
export async function giveSpare(
  actor: Actor,
  { code: typed, placement: wanted, ...to }: GivenTo & { code: string; placement: string },
  clock: Clock,
): Promise<{ id: string }> {
  authorise(actor, 'hand-out.make');
  return inTenant(actor, async (tx) => {
    const cardId = await cardMeant(tx, actor, to);
    const row = await card(tx, cardId);
    if (!row) throw new Refusal({ code: 'NOT_FOUND' });
    authoriseFor(actor, 'hand-out.make', row.record_id);
    if (row.state !== 'published') throw new Refusal({ code: 'CARD_NOT_PUBLISHED' });
    const spare = await taken(tx, typed);
    const placement = cleanLine(wanted).text.slice(0, LIMITS.placement) || spare.placement;
    const id = randomUUID();
    const { number, channel } = spare;
    await insertHandOut(tx, {
      ...{ id, organisation_id: actor.organisationId, card_id: cardId, code: spare.code, placement },
      placement_id: await placementNamed(tx, actor.organisationId, placement),
      ...{ channel, number, frozen: null, revision: null, content: { what: 'card' }, occasion_id: null },
      ...(channel === 'tag' ? { tag: blankTag(spare) } : {}),
      created_at: new Date(clock.now()),
    });
    await pointSpare(tx, spare.code, { card_id: cardId, hand_out_id: id });
    await touchCard(tx, cardId, actor.organisationId);
    await recordAudit(tx, actor, 'hand-out.made', { kind: 'hand-out', id }, clock);
    return { id };
  });
}
