import { isLive, liveTag, readTagContent, type Content } from '@/core/code';
import { orRefuse, Refusal } from '@/core/errors';
import { applyHouseStyle } from '@/core/house';
import { LIMITS } from '@/core/limits';
import { TAG_ROOM } from '@/core/ndef';
import { cleanLine } from '@/core/record';
import { card } from '@/server/db/cards/cards';
import { handOut, setDrawn, type TagState } from '@/server/db/hand-outs/hand-outs';
import { log } from '@/server/log';
import { occasion } from '@/server/db/hand-outs/placements';
import { latestRevision } from '@/server/db/cards/revisions';
import { inTenant } from '@/server/db/pool';
import type { Clock } from '@/server/clock';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise, authoriseFor } from '@/server/services/accounts/authorise';
import { houseOf } from '@/server/services/house/house-style';
import { addHandOut } from '@/server/services/publishing/publish-card';
import { noteFrozen } from '@/server/services/wild/note-copy';
import { firstStyle, styled } from './drawing';
import { carriedInFrozen, frozenBytes, withheldToday } from './frozen';
import { markOfPicture } from './marks';
import { linkOf } from './own';

export type NewHandOutInput = {
  cardId: string;
  placement: string;
  occasionId?: string | null;
  channel?: 'code' | 'tag';
  /** What a code or tag makes a phone do; without it, it opens the card or is a `frozen` contact. */
  content?: Content;
  frozen?: boolean;
};

const FROZEN_CONTACT: Content = { what: 'contact', form: 'vCard 3.0', link: true };

/**
 * A further hand-out of a published card, with a placement and a code of its own. Errors: NOT_FOUND, CARD_NOT_PUBLISHED, INPUT, those of {@link frozenBytes}.
 */
export async function makeHandOut(
  actor: Actor,
  input: NewHandOutInput,
  clock: Clock,
): Promise<{ id: string; code: string }> {
  authorise(actor, 'hand-out.make');
  const placement = cleanLine(input.placement).text.slice(0, LIMITS.placement);
  if (!placement) throw new Refusal({ code: 'INPUT', field: 'placement' });
  const made = await inTenant(actor, async (tx) => {
    const row = await card(tx, input.cardId);
    if (!row) throw new Refusal({ code: 'NOT_FOUND' });
    authoriseFor(actor, 'hand-out.make', row.record_id);
    const revision = await latestRevision(tx, input.cardId);
    if (row.state !== 'published' || !revision) throw new Refusal({ code: 'CARD_NOT_PUBLISHED' });
    if (input.occasionId && !(await occasion(tx, input.occasionId))) throw new Refusal({ code: 'NOT_FOUND' });
    const { style: house, mark } = (await houseOf(tx, row)) ?? { style: null, mark: { house: 0 } };
    const composition = applyHouseStyle(revision.composition, house);
    const { channel = 'code' } = input;
    const content = input.content ?? (input.frozen ? FROZEN_CONTACT : { what: 'card' as const });
    if (channel === 'tag') orRefuse(readTagContent(content));
    const frozen = !isLive(content);
    const withheld = frozen ? await withheldToday(tx, actor, row, channel, house, content) : [];
    const made = await addHandOut(tx, actor.organisationId, input.cardId, placement, new Date(clock.now()), (code) => {
      const link = linkOf({ organisation_id: actor.organisationId, code });
      const bytes = frozen ? frozenBytes({ channel, content, composition, link, withheld }) : null;
      return {
        ...{ channel, content, occasion_id: input.occasionId ?? null },
        frozen: bytes && bytes.toString('base64'),
        revision: frozen ? revision.number : null,
        ...(channel === 'tag' ? { tag: { ...newTag(bytes ?? liveTag(content, link)), ...mark } } : {}),
      };
    });
    if (frozen) {
      const { organisationId, organisation } = actor;
      const of = { organisationId, cardId: input.cardId, handOutId: made.id, revision: revision.number };
      const carried = carriedInFrozen(channel, content, composition, organisation.country);
      await noteFrozen(tx, { ...of, at: new Date(clock.now()) }, channel, carried);
    }
    await recordAudit(tx, actor, 'hand-out.made', { kind: 'hand-out', id: made.id }, clock);
    return made;
  });
  if (input.channel !== 'tag') await proveNew(actor, made.id);
  return made;
}

/** What is known of a tag that nobody has written yet: it is of the smallest size that its bytes fit. */
export const newTag = (memory: Uint8Array): TagState => ({
  room: TAG_ROOM.find((room) => memory.length <= room) ?? TAG_ROOM[2],
  ...{ writtenAt: null, writes: 0, locked: false },
});
/** A new code is proven in the style that it starts with; where the compute pool is busy it is when it is first opened. */
async function proveNew(actor: Actor, id: string): Promise<void> {
  const first = await inTenant(actor, async (tx) => {
    const row = await handOut(tx, id);
    const owner = row && (await card(tx, row.card_id));
    if (!row || !owner) return null;
    return { row, ...(await firstStyle(tx, row.card_id, (await houseOf(tx, owner))?.style ?? null)) };
  });
  if (!first) return;
  try {
    const mark = first.logo && { ...(await markOfPicture(actor, first.logo.hash)), percent: first.logo.percent };
    const { drawn, proof } = await styled(first.row, mark ? { ...first.style, mark } : first.style);
    await inTenant(actor, (tx) => setDrawn(tx, id, drawn, proof));
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    log.info({ code: error.problem.code }, 'a new code is proven when it is first opened');
  }
}
