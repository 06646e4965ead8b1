import { leaveOutFor, liveTag, tagContent, tagOf, type TagContent } from '@/core/code';
import { leavingOf, privacyOf, type Composition } from '@/core/card';
import { Refusal } from '@/core/errors';
import { applyHouseStyle } from '@/core/house';
import type { TagRoom } from '@/core/ndef';
import { proveTag } from '@/core/proof/tag';
import type { ShownTag } from '@/core/shown';
import { heldInTag } from '@/core/specimen/tag-held';
import type { Clock } from '@/server/clock';
import type { CardRow } from '@/server/db/cards/cards';
import { record } from '@/server/db/cards/records';
import { latestRevision, revision } from '@/server/db/cards/revisions';
import { setTag, type HandOutRow, type TagState } from '@/server/db/hand-outs/hand-outs';
import { inTenant, type Tx } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise } from '@/server/services/accounts/authorise';
import { houseAt, houseOf } from '@/server/services/house/house-style';
import { noteFrozen } from '@/server/services/wild/note-copy';
import { mayReach } from '@/core/access';
import { carriedInFrozen, frozenBytes, withheldToday } from './frozen';
import { newTag } from './make';
import { linkOf, ownHandOut } from './own';

/** A tag that the member may do this with. Errors: NOT_ALLOWED, NOT_FOUND. */
async function ownTag(tx: Tx, actor: Actor, id: string, action: 'hand-out.read' | 'hand-out.make') {
  const own = await ownHandOut(tx, actor, id, action);
  if (own.row.channel !== 'tag') throw new Refusal({ code: 'NOT_FOUND' });
  return own;
}

const contentOf = ({ content, frozen }: HandOutRow): TagContent => tagContent(content, frozen !== null);

/** The bytes of a tag as they lie in its memory. */
function memoryOf(row: HandOutRow): Buffer {
  if (row.frozen !== null) return Buffer.from(row.frozen, 'base64');
  return Buffer.from(liveTag(contentOf(row), linkOf(row)));
}

/** What is known of a tag; one that nobody has touched is of the smallest size that it fits. */
const stateOf = (row: HandOutRow): TagState => row.tag ?? newTag(memoryOf(row));

/** The NDEF bytes of a tag as they lie in its memory. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function tagBytes(actor: Actor, id: string): Promise<{ bytes: Buffer; fileName: string }> {
  authorise(actor, 'hand-out.read');
  const { row } = await inTenant(actor, (tx) => ownTag(tx, actor, id, 'hand-out.read'));
  return { bytes: memoryOf(row), fileName: `tag-${row.code}` };
}

/** The card of a tag as it is published, under today's house style. Error: NOT_FOUND. */
async function publishedOf(tx: Tx, owner: CardRow) {
  const { style: house, mark } = (await houseOf(tx, owner)) ?? { style: null, mark: { house: 0 } };
  const latest = await latestRevision(tx, owner.id);
  if (!latest) throw new Refusal({ code: 'NOT_FOUND' });
  return { house, mark, number: latest.number, composition: applyHouseStyle(latest.composition, house) };
}

/** Everything that the screen of a tag shows, with the proof of its bytes. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function openTag(actor: Actor, id: string, clock: Clock): Promise<ShownTag> {
  authorise(actor, 'hand-out.read');
  return inTenant(actor, async (tx) => {
    const { row, owner } = await ownTag(tx, actor, id, 'hand-out.read');
    const { house, composition, number } = await publishedOf(tx, owner);
    const person = await record(tx, owner.record_id);
    if (!person) throw new Refusal({ code: 'NOT_FOUND' });
    const content = contentOf(row);
    const link = linkOf(row);
    const memory = memoryOf(row);
    const state = stateOf(row);
    const opensCard = content.what === 'card' || content.what === 'contact' || content.what === 'words';
    const withheld = row.frozen === null ? [] : await withheldToday(tx, actor, owner, 'tag', house, content);
    const today = tagOf(content, composition, { link });
    return {
      ...{ id, cardId: row.card_id, code: row.code, placement: row.placement, link, content, state },
      ...{ live: row.frozen === null, revision: row.revision, latest: number, memory: memory.toString('base64') },
      // What a line of the card says by now, where it is another thing than the tag does.
      renews: row.frozen !== null && today.ok && !Buffer.from(today.value).equals(memory),
      proof: proveTag(memory, heldInTag(memory, content, link), withheld, state.room),
      leaveOut: content.what === 'contact' ? leaveOutFor(composition, { link }, state.room) : [],
      leaving: leavingIn(content, composition, person.body),
      tests: opensCard,
      testedAt: row.tested_at?.toISOString() ?? null,
      waits: row.testing_until !== null && row.testing_until.getTime() > clock.now(),
      mayWrite: mayReach(actor, 'hand-out.make', owner.record_id),
    };
  });
}

/** What is private and lies in a tag. */
function leavingIn(content: TagContent, composition: Composition, body: Parameters<typeof privacyOf>[1]) {
  const of = (detail: Parameters<typeof privacyOf>[0]) => privacyOf(detail, body);
  if (content.what === 'contact') return leavingOf(composition, null, ['tag'], of);
  if (!('line' in content)) return [];
  const lines = composition.lines
    .filter(({ id }) => id === content.line)
    .map((line) => ({ ...line, on: ['tag' as const] }));
  return leavingOf({ ...composition, lines }, null, ['tag'], of);
}

/** Keeps which size a tag has. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function sizeTag(actor: Actor, id: string, room: TagRoom, clock: Clock): Promise<ShownTag> {
  authorise(actor, 'hand-out.make');
  await inTenant(actor, async (tx) => {
    const { row } = await ownTag(tx, actor, id, 'hand-out.make');
    await setTag(tx, id, { ...stateOf(row), room });
    await recordAudit(tx, actor, 'hand-out.styled', { kind: 'hand-out', id }, clock);
  });
  return openTag(actor, id, clock);
}

/**
 * Has a frozen tag carry what its card says today, from when it is written next. Errors: NOT_ALLOWED, NOT_FOUND, CARD_NOT_PUBLISHED, TAG_LOCKED,
 * those of {@link frozenBytes}.
 */
export async function renewTag(actor: Actor, id: string, clock: Clock): Promise<ShownTag> {
  authorise(actor, 'hand-out.make');
  await inTenant(actor, async (tx) => {
    const { row, owner } = await ownTag(tx, actor, id, 'hand-out.make');
    if (row.frozen === null) throw new Refusal({ code: 'NOT_FOUND' });
    if (owner.state !== 'published') throw new Refusal({ code: 'CARD_NOT_PUBLISHED' });
    const state = stateOf(row);
    if (state.locked) throw new Refusal({ code: 'TAG_LOCKED' });
    const { house, mark, composition, number } = await publishedOf(tx, owner);
    const content = contentOf(row);
    const withheld = await withheldToday(tx, actor, owner, 'tag', house, content);
    const bytes = frozenBytes({ channel: 'tag', content, composition, link: linkOf(row), withheld });
    const { office: _, ...rest } = state;
    await setTag(tx, id, { ...rest, ...mark }, { frozen: bytes.toString('base64'), revision: number });
    await recordAudit(tx, actor, 'hand-out.styled', { kind: 'hand-out', id }, clock);
  });
  return openTag(actor, id, clock);
}

/**
 * Notes that a tag was written with what it carries, and whether it was locked: a copy is out from then on, in the place of the one before.
 * Errors: NOT_ALLOWED, NOT_FOUND, TAG_TOO_SMALL, TAG_LOCKED.
 */
export async function tagWritten(
  actor: Actor,
  id: string,
  { locked }: { locked: boolean },
  clock: Clock,
): Promise<ShownTag> {
  authorise(actor, 'hand-out.make');
  await inTenant(actor, async (tx) => {
    const { row, owner } = await ownTag(tx, actor, id, 'hand-out.make');
    const state = stateOf(row);
    if (state.locked) throw new Refusal({ code: 'TAG_LOCKED' });
    const bytes = memoryOf(row).length;
    if (bytes > state.room) throw new Refusal({ code: 'TAG_TOO_SMALL', bytes, room: state.room });
    const at = new Date(clock.now());
    await setTag(tx, id, { ...state, locked, writtenAt: at.toISOString(), writes: state.writes + 1 });
    const of = row.revision === null ? undefined : await revision(tx, row.card_id, row.revision);
    if (row.frozen !== null && of) {
      const { organisationId, organisation } = actor;
      // As its bytes were made, whatever the house style has become meanwhile.
      const { house, office } = state;
      const made = house === undefined ? (await houseOf(tx, owner))?.mark : { house, ...(office ? { office } : {}) };
      const style = made ? await houseAt(tx, made) : null;
      const composition = applyHouseStyle(of.composition, style);
      const carried = carriedInFrozen('tag', contentOf(row), composition, organisation.country);
      const copy = { organisationId, cardId: row.card_id, handOutId: id, revision: of.number, at };
      await noteFrozen(tx, copy, 'tag', carried);
    }
    await recordAudit(tx, actor, 'hand-out.written', { kind: 'hand-out', id }, clock);
  });
  return openTag(actor, id, clock);
}
