import { Refusal } from '@/core/errors';
import type { HandOutChannel } from '@/core/shown';
import { LIMITS } from '@/core/limits';
import { cleanLine, cleanText } from '@/core/record';
import type { Clock } from '@/server/clock';
import { card } from '@/server/db/cards/cards';
import { moveCode, touchCard } from '@/server/db/cards/directory';
import { changeHandOut, noteMove, setDrawn, type HandOutRow } from '@/server/db/hand-outs/hand-outs';
import { setBackdrop, setPiece } from '@/server/db/hand-outs/print';
import { copyArtworks } from '@/server/db/hand-outs/artworks';
import { occasion, placementNamed } from '@/server/db/hand-outs/placements';
import { violatedUnique } from '@/server/db/jobs/failures';
import { inTenant, type Tx } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise, authoriseFor } from '@/server/services/accounts/authorise';
import { styled } from './drawing';
import { makeHandOut } from './make';
import { ownHandOut } from './own';
import { addPiece, type PieceChannel } from '@/server/services/pieces/parts';

/** What may open another card: what is one of its card's kind stays with it. */
const MOVABLE = new Set<HandOutChannel>(['code', 'tag']);

export type HandOutState = 'out' | 'resting' | 'retired';

/** Another placement and occasion for a hand-out; its code stays. Errors: NOT_ALLOWED, NOT_FOUND, INPUT, HAND_OUT_THERE. */
export async function renameHandOut(
  actor: Actor,
  id: string,
  wanted: { placement: string; occasionId: string | null },
  clock: Clock,
): Promise<void> {
  authorise(actor, 'hand-out.make');
  const placement = cleanLine(wanted.placement).text.slice(0, LIMITS.placement);
  if (!placement) throw new Refusal({ code: 'INPUT', field: 'placement' });
  const rename = inTenant(actor, async (tx) => {
    const { row } = await ownHandOut(tx, actor, id, 'hand-out.make');
    if (wanted.occasionId && !(await occasion(tx, wanted.occasionId))) throw new Refusal({ code: 'NOT_FOUND' });
    const placement_id = await placementNamed(tx, actor.organisationId, placement);
    await changeHandOut(tx, id, { placement, placement_id, occasion_id: wanted.occasionId });
    // Pages say where their code was given out.
    await touchCard(tx, row.card_id, actor.organisationId);
    await recordAudit(tx, actor, 'hand-out.changed', { kind: 'hand-out', id }, clock);
  });
  await rename.catch((error: unknown) => {
    // Of what is reused there is one a placement and occasion.
    throw violatedUnique(error) === 'reused_hand_out' ? new Refusal({ code: 'HAND_OUT_THERE' }) : error;
  });
}

/**
 * Lets one hand-out rest, retires it, or brings it back, while the card and its other hand-outs go on: whoever opens it reads `notice`, or the
 * organisation's own words. Errors: NOT_ALLOWED, NOT_FOUND.
 */
export async function setHandOutState(
  actor: Actor,
  id: string,
  { state, notice }: { state: HandOutState; notice: string },
  clock: Clock,
): Promise<void> {
  authorise(actor, 'hand-out.make');
  await inTenant(actor, async (tx) => {
    const { row } = await ownHandOut(tx, actor, id, 'hand-out.make');
    await changeHandOut(tx, id, { state, notice: cleanText(notice).text.slice(0, LIMITS.text) });
    await touchCard(tx, row.card_id, actor.organisationId);
    await recordAudit(tx, actor, 'hand-out.state-set', { kind: 'hand-out', id }, clock, { state });
  });
}

/**
 * Has a live hand-out open another published card from now on; what it opened before is kept with the figures of that card. What is frozen carries one
 * person's lines, and a signature is its card's. Errors: NOT_ALLOWED, NOT_FOUND, HAND_OUT_FIXED, CARD_NOT_PUBLISHED.
 */
export async function pointElsewhere(actor: Actor, id: string, cardId: string, clock: Clock): Promise<void> {
  authorise(actor, 'hand-out.make');
  await inTenant(actor, async (tx) => {
    const { row } = await ownHandOut(tx, actor, id, 'hand-out.make');
    if (row.frozen !== null || !MOVABLE.has(row.channel)) throw new Refusal({ code: 'HAND_OUT_FIXED' });
    if (row.card_id === cardId) return;
    await refuseUnpublished(tx, actor, cardId);
    await moveCode(tx, row.code, cardId);
    await changeHandOut(tx, id, { card_id: cardId });
    const at = new Date(clock.now());
    await noteMove(tx, {
      organisation_id: actor.organisationId,
      hand_out_id: id,
      from_card: row.card_id,
      to_card: cardId,
      at,
    });
    // Locked in one order, whichever way it moves.
    for (const each of [row.card_id, cardId].sort()) await touchCard(tx, each, actor.organisationId);
    await recordAudit(tx, actor, 'hand-out.moved', { kind: 'hand-out', id }, clock);
  });
}

async function refuseUnpublished(tx: Tx, actor: Actor, cardId: string): Promise<void> {
  const target = await card(tx, cardId);
  if (!target) throw new Refusal({ code: 'NOT_FOUND' });
  authoriseFor(actor, 'hand-out.make', target.record_id);
  if (target.state !== 'published') throw new Refusal({ code: 'CARD_NOT_PUBLISHED' });
}

const secondOf = (placement: string): string => `${placement.slice(0, LIMITS.placement - 4)} (2)`;

/** A piece that is made up the same, with a code of its own. */
async function duplicatePiece(
  actor: Actor,
  channel: PieceChannel,
  { id, card_id: cardId, placement, print, backdrop }: HandOutRow,
  clock: Clock,
): Promise<{ id: string }> {
  const made = await addPiece(actor, { cardId, placement: secondOf(placement), channel }, clock);
  await inTenant(actor, async (tx) => {
    if (print) await setPiece(tx, made.id, print);
    await copyArtworks(tx, id, made.id);
    if (backdrop) await setBackdrop(tx, made.id, backdrop);
  });
  return made;
}

/** A further hand-out that does the same and looks the same, with a code and counts of its own. Errors: those of {@link makeHandOut}, HAND_OUT_FIXED of a signature. */
export async function duplicateHandOut(actor: Actor, id: string, clock: Clock): Promise<{ id: string }> {
  authorise(actor, 'hand-out.make');
  const row = await inTenant(
    actor.organisationId,
    async (tx) => (await ownHandOut(tx, actor, id, 'hand-out.make')).row,
  );
  const { channel, card_id: cardId, occasion_id: occasionId, content, frozen } = row;
  if (channel === 'print' || channel === 'backdrop' || channel === 'pass')
    return duplicatePiece(actor, channel, row, clock);
  if (channel !== 'code' && channel !== 'tag') throw new Refusal({ code: 'HAND_OUT_FIXED' });
  const placement = secondOf(row.placement);
  const more = channel === 'tag' || content === null ? { frozen: frozen !== null } : { content };
  const made = await makeHandOut(actor, { cardId, placement, occasionId, channel, ...more }, clock);
  if (channel === 'tag' || !row.drawn) return made;
  const own = await inTenant(
    actor.organisationId,
    async (tx) => (await ownHandOut(tx, actor, made.id, 'hand-out.make')).row,
  );
  const { drawn, proof } = await styled(own, row.drawn.style);
  await inTenant(actor, (tx) => setDrawn(tx, made.id, drawn, proof));
  return made;
}
