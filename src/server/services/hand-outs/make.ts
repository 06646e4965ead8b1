import { reconcile, withheldFrom, type Composition } from '@/core/card';
import { contentText, isLive, leaksOf, type Content } from '@/core/code';
import { orRefuse, Refusal } from '@/core/errors';
import type { Finding } from '@/core/findings';
import { applyHouseStyle, withoutHouse, type HouseStyle } from '@/core/house';
import { LIMITS } from '@/core/limits';
import { TAG_ROOM, tagMemory } from '@/core/ndef';
import { proveFrozenContact } from '@/core/proof';
import { cleanLine } from '@/core/record';
import { writeFrozenContact } from '@/core/vcard';
import { carriedInCode, carriedOn } from '@/core/wild';
import { card, type CardRow } from '@/server/db/cards/cards';
import { handOut, setDrawn } from '@/server/db/hand-outs/hand-outs';
import { log } from '@/server/log';
import { occasion } from '@/server/db/hand-outs/placements';
import { latestRevision } from '@/server/db/cards/revisions';
import { record } from '@/server/db/cards/records';
import { inTenant, type Tx } from '@/server/db/pool';
import type { Clock } from '@/server/clock';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise, authoriseFor } from '@/server/services/accounts/authorise';
import { houseOf } from '@/server/services/house/house-style';
import { addHandOut } from '@/server/services/publishing/publish-card';
import { noteFrozen } from '@/server/services/wild/note-copy';
import { firstStyle, styled } from './drawing';
import { markOfPicture } from './marks';
import { linkOf } from './own';

export type NewHandOutInput = {
  cardId: string;
  placement: string;
  occasionId?: string | null;
  channel?: 'code' | 'tag';
  /** What a code makes a phone do; a tag is live or `frozen`. */
  content?: Content;
  frozen?: boolean;
};

const FROZEN_CONTACT: Content = { what: 'contact', form: 'vCard 3.0', link: true };

/**
 * A further hand-out of a published card, with a placement and a code of its own. Errors: NOT_FOUND, CARD_NOT_PUBLISHED, INPUT, PROOF_FAILED, those
 * of {@link contentText}.
 */
export async function makeHandOut(
  actor: Actor,
  input: NewHandOutInput,
  clock: Clock,
): Promise<{ id: string; code: string }> {
  authorise(actor, 'hand-out.make');
  const placement = cleanLine(input.placement).text.slice(0, LIMITS.placement);
  if (!placement) throw new Refusal({ code: 'INPUT', field: 'placement' });
  const made = await inTenant(actor.organisationId, async (tx) => {
    const row = await card(tx, input.cardId);
    if (!row) throw new Refusal({ code: 'NOT_FOUND' });
    authoriseFor(actor, 'hand-out.make', row.record_id);
    const revision = await latestRevision(tx, input.cardId);
    if (row.state !== 'published' || !revision) throw new Refusal({ code: 'CARD_NOT_PUBLISHED' });
    if (input.occasionId && !(await occasion(tx, input.occasionId))) throw new Refusal({ code: 'NOT_FOUND' });
    const house = (await houseOf(tx, row))?.style ?? null;
    const composition = applyHouseStyle(revision.composition, house);
    const { channel = 'code' } = input;
    const content =
      channel === 'tag' ? null : (input.content ?? (input.frozen ? FROZEN_CONTACT : { what: 'card' as const }));
    const frozen = content ? !isLive(content) : input.frozen === true;
    const inChannel = frozen ? await withheldToday(tx, actor, row, channel, house) : [];
    // A line that is chosen by itself may be one of the page's as well.
    const onPage = content && 'line' in content ? await withheldToday(tx, actor, row, 'page', house) : null;
    const ticks = onPage ? inChannel.filter((value) => onPage.includes(value)) : inChannel;
    const made = await addHandOut(tx, actor.organisationId, input.cardId, placement, new Date(clock.now()), (code) => {
      const link = linkOf({ organisation_id: actor.organisationId, code });
      return {
        ...{ channel, content, occasion_id: input.occasionId ?? null },
        frozen: frozen ? frozenBytes(content, composition, link, ticks) : null,
        revision: frozen ? revision.number : null,
      };
    });
    if (frozen) {
      const { organisationId, organisation } = actor;
      const of = { organisationId, cardId: input.cardId, handOutId: made.id, revision: revision.number };
      const carried = content
        ? carriedInCode(content, composition, organisation.country)
        : carriedOn(composition, 'tag', organisation.country);
      await noteFrozen(tx, { ...of, at: new Date(clock.now()) }, channel, carried);
    }
    await recordAudit(tx, actor, 'hand-out.made', { kind: 'hand-out', id: made.id }, clock);
    return made;
  });
  if (input.channel !== 'tag') await proveNew(actor, made.id);
  return made;
}

/** A new code is proven in the style that it starts with; where the compute pool is busy it is when it is first opened. */
async function proveNew(actor: Actor, id: string): Promise<void> {
  const first = await inTenant(actor.organisationId, async (tx) => {
    const row = await handOut(tx, id);
    const owner = row && (await card(tx, row.card_id));
    if (!row || !owner) return null;
    return { row, ...(await firstStyle(tx, row.card_id, (await houseOf(tx, owner))?.style ?? null)) };
  });
  if (!first) return;
  try {
    const mark = first.logo && { ...(await markOfPicture(actor, first.logo.hash)), percent: first.logo.percent };
    const { drawn, proof } = await styled(first.row, mark ? { ...first.style, mark } : first.style);
    await inTenant(actor.organisationId, (tx) => setDrawn(tx, id, drawn, proof));
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    log.info({ code: error.problem.code }, 'a new code is proven when it is first opened');
  }
}

/** What today's ticks keep from a channel: a copy that leaves can never be taken back. */
async function withheldToday(
  tx: Tx,
  actor: Actor,
  row: CardRow,
  channel: 'code' | 'tag' | 'page',
  house: HouseStyle | null,
): Promise<string[]> {
  const person = await record(tx, row.record_id);
  if (!person) throw new Refusal({ code: 'NOT_FOUND' });
  const { body } = person;
  const withheld = withheldFrom(body, reconcile(row.lines, body), channel, actor.organisation.country);
  return withoutHouse(withheld, row.look, house, channel);
}

/**
 * The bytes that a frozen hand-out carries, base64: a code its text, a tag the link first, since some phones read nothing else, then the contact.
 * What was unticked or cut since the card was published does not go out in it. Errors:
 * CONTENT_TOO_LARGE, PROOF_FAILED, those of {@link contentText}.
 */
function frozenBytes(content: Content | null, composition: Composition, link: string, withheld: string[]): string {
  const carried =
    content === null ? writeFrozenContact(composition, 'tag') : orRefuse(contentText(content, composition, { link }));
  const leaked = content === null || content.what === 'contact' || 'line' in content ? leaksOf(carried, withheld) : [];
  if (leaked.length > 0) {
    const finding = { code: 'UNTICKED', still: leaked.length, of: withheld.length } as const;
    throw new Refusal({ code: 'PROOF_FAILED', channel: content === null ? 'tag' : 'code', finding });
  }
  refuseOther(carried, composition, content, link);
  if (content !== null) return Buffer.from(carried).toString('base64');
  const bytes = Buffer.from(tagMemory(link, carried));
  const room = Math.max(...TAG_ROOM);
  if (bytes.length > room) throw new Refusal({ code: 'CONTENT_TOO_LARGE', bytes: bytes.length, room });
  return bytes.toString('base64');
}

/** A contact that does not read as its lines say does not leave. Error: PROOF_FAILED. */
function refuseOther(carried: string, composition: Composition, content: Content | null, link: string): void {
  if (content !== null && content.what !== 'contact') return;
  const channel = content === null ? 'tag' : 'code';
  const found = proveFrozenContact(carried, composition, {
    channel,
    link: content?.link ? link : null,
    version: content === null ? '3.0' : VERSIONS[content.form],
  });
  const refuse = (finding: Finding) => {
    throw new Refusal({ code: 'PROOF_FAILED', channel, finding });
  };
  if (!found) return refuse({ code: 'UNREADABLE' });
  const of = composition.lines.filter(({ on }) => on.includes(channel)).length + 1;
  const { missing, more } = found;
  if (missing.length > 0) refuse({ code: 'LINES_READ', read: of - missing.length, of, missing });
  if (more.length > 0) refuse({ code: 'NOTHING_ELSE', more });
}
const VERSIONS = { 'vCard 3.0': '3.0', 'vCard 4.0': '4.0', MeCard: 'MeCard' } as const;
