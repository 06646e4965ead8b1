import { randomBytes, randomUUID } from 'node:crypto';
import writeXlsx from 'write-excel-file/node';
import { mayReach, recordsWithin } from '@/core/access';
import { codeFrom } from '@/core/address';
import { liveTag, tagContent } from '@/core/code';
import { Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { cleanLine } from '@/core/record';
import { csvOf } from '@/core/sheet';
import type { RowTag, TagRows } from '@/core/shown';
import { TAGS } from '@/core/words';
import type { Clock } from '@/server/clock';
import { firstPublished } from '@/server/db/cards/cards';
import { recordNames } from '@/server/db/cards/records';
import { placementNamed } from '@/server/db/hand-outs/placements';
import {
  cardsWithTag,
  insertTags,
  markTagsWritten,
  ownersOfTags,
  tagPlacements,
  tagsAt,
  type TagRow,
} from '@/server/db/hand-outs/tags';
import { countAlone } from '@/server/db/locks';
import { inTenant } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise } from '@/server/services/accounts/authorise';
import { newTag } from './make';
import { linkOf, plainName } from './own';

/** Whose tags: each one's first published card. What a tap does is live: the tag holds a link. */
export type TagsInput = { records: string[]; placement: string; what: 'card' | 'save' };

/**
 * Makes a live tag for each of several people at one placement; who has one there keeps it, so that a second try makes no second one. Answers with
 * the placement, null where nobody has a tag there, how many were made, and who has no published card. Errors: NOT_ALLOWED, NOT_FOUND, NOTHING_CHOSEN, TOO_MANY_CHOSEN, INPUT.
 */
export async function makeTags(
  actor: Actor,
  { records, placement: typed, what }: TagsInput,
  clock: Clock,
): Promise<{ placement: string | null; made: number; without: string[] }> {
  authorise(actor, 'hand-out.make');
  const placement = cleanLine(typed).text.slice(0, LIMITS.placement);
  if (!placement) throw new Refusal({ code: 'INPUT', field: 'placement' });
  const wanted = [...new Set(records)];
  if (wanted.length === 0) throw new Refusal({ code: 'NOTHING_CHOSEN' });
  if (wanted.length > LIMITS.tagsTogether) throw new Refusal({ code: 'TOO_MANY_CHOSEN', limit: LIMITS.tagsTogether });
  const within = recordsWithin(actor, 'hand-out.make');
  if (within !== 'all' && wanted.some((id) => !within.includes(id))) throw new Refusal({ code: 'NOT_FOUND' });
  const { organisationId } = actor;
  return inTenant(organisationId, async (tx) => {
    const people = await recordNames(tx, wanted);
    if (people.length < wanted.length) throw new Refusal({ code: 'NOT_FOUND' });
    const cards = await firstPublished(tx, wanted);
    const without = people.filter((person) => !cards.has(person.id)).map(({ written_name }) => written_name);
    if (cards.size === 0) return { placement: null, made: 0, without };
    const id = await placementNamed(tx, organisationId, placement);
    // Of two who ask at once one makes them.
    await countAlone(tx, organisationId, 'tags');
    const there = await cardsWithTag(tx, id, [...cards.values()]);
    const created_at = new Date(clock.now());
    const rows = [...cards.values()]
      .filter((card) => !there.has(card))
      .map((card_id) => {
        const code = codeFrom(randomBytes(8));
        const own = { id: randomUUID(), organisation_id: organisationId, card_id, code };
        return {
          ...{ ...own, placement, placement_id: id, channel: 'tag' as const, content: { what } },
          ...{ frozen: null, revision: null, occasion_id: null, created_at },
          tag: newTag(liveTag({ what }, linkOf(own))),
        };
      });
    await insertTags(tx, rows);
    if (rows.length > 0) {
      const subject = { kind: 'organisation', id: organisationId } as const;
      await recordAudit(tx, actor, 'tags.made', subject, clock, { count: rows.length });
    }
    return { placement: id, made: rows.length, without };
  });
}

function shownTag(actor: Actor, row: TagRow): RowTag {
  const { id, card_id, person, audience, number, content, frozen, tag, state } = row;
  const { what } = tagContent(content, frozen !== null);
  const link = linkOf(row);
  const memory = frozen ?? Buffer.from(liveTag({ what }, link)).toString('base64');
  const { room, writtenAt, locked } = tag ?? newTag(Buffer.from(memory, 'base64'));
  return {
    ...{ id, cardId: card_id, person, audience, number, what, link, memory, room, writtenAt, locked, state },
    ...{ live: frozen === null, mayWrite: mayReach(actor, 'hand-out.make', row.record_id) },
  };
}

/** Where there are tags, and those of one placement, by person. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function listTags(actor: Actor, placementId: string | null): Promise<TagRows> {
  authorise(actor, 'hand-out.read');
  const within = recordsWithin(actor, 'hand-out.read');
  return inTenant(actor, async (tx) => {
    const newest = await tagPlacements(tx, within);
    // One that is asked for may be older than those that are offered.
    const [older = null] =
      placementId === null || newest.some(({ id }) => id === placementId)
        ? []
        : await tagPlacements(tx, within, placementId);
    const placements = older ? [...newest, older] : newest;
    const of = placements.find(({ id }) => id === placementId) ?? null;
    if (placementId !== null && of === null) throw new Refusal({ code: 'NOT_FOUND' });
    const rows = of ? await tagsAt(tx, of.id, within, LIMITS.tagsShown) : [];
    return {
      ...{ placements, of: of && { id: of.id, name: of.name } },
      ...{ tags: rows.map((row) => shownTag(actor, row)), total: of?.tags ?? 0 },
    };
  });
}

/** How wide its columns are, in letters. */
const WIDTHS = [6, 28, 20, 20, 44, 8, 24];

/**
 * The tags of a placement as a table for whoever prints and encodes them: whose each is, the address that it holds, the bytes that this takes, and the
 * smallest size that has room. Errors: NOT_ALLOWED, NOT_FOUND.
 */
export async function supplierList(
  actor: Actor,
  placementId: string,
  as: 'csv' | 'xlsx',
): Promise<{ bytes: Buffer; fileName: string }> {
  const { of, tags } = await listTags(actor, placementId);
  const { column, does } = TAGS.list;
  const head = [column.number, column.person, column.card, column.does, column.link, column.bytes, column.size];
  const rows = tags.map(({ number, person, audience, what, link, memory, room, live }) => ({
    texts: [person, audience, live ? does[what === 'save' ? 'save' : 'card'] : does.frozen] as const,
    link: what === 'save' ? `${link}.vcf` : link,
    number,
    bytes: Buffer.from(memory, 'base64').length,
    room,
  }));
  const fileName = `${plainName(of!.name) || 'tags'}.${as}`;
  if (as === 'csv') {
    const lines = rows.map(({ number, texts, link, bytes, room }) => [
      ...[number === null ? '' : String(number), ...texts, link, String(bytes), String(room)],
    ]);
    // The mark of UTF-8 first: without it spreadsheets take letters for others (common practice, no published source).
    return { bytes: Buffer.from(`\uFEFF${csvOf([head, ...lines])}`), fileName };
  }
  const text = (value: string) => ({ value, type: String });
  const figure = (value: number | null) => (value === null ? null : { value, type: Number });
  const table = [
    head.map((value) => ({ ...text(value), fontWeight: 'bold' as const })),
    ...rows.map(({ number, texts, link, bytes, room }) => [
      ...[figure(number), ...texts.map(text), text(link), figure(bytes), figure(room)],
    ]),
  ];
  const columns = WIDTHS.map((width) => ({ width }));
  const sheet = await writeXlsx(table, { columns, stickyRowsCount: 1 }).toBuffer();
  return { bytes: Buffer.from(sheet), fileName };
}

/** Notes that live tags came back written. What is frozen is noted one by one, when it is written. Errors: NOT_ALLOWED, NOT_FOUND, TOO_MANY_CHOSEN. */
export async function tagsWritten(actor: Actor, ids: string[], clock: Clock): Promise<{ written: number }> {
  authorise(actor, 'hand-out.make');
  if (ids.length > LIMITS.tagsShown) throw new Refusal({ code: 'TOO_MANY_CHOSEN', limit: LIMITS.tagsShown });
  return inTenant(actor, async (tx) => {
    const owners = await ownersOfTags(tx, ids);
    if (owners.length < new Set(ids).size || owners.some((row) => !mayReach(actor, 'hand-out.make', row.record_id)))
      throw new Refusal({ code: 'NOT_FOUND' });
    const written = await markTagsWritten(tx, ids, new Date(clock.now()));
    const subject = { kind: 'organisation', id: actor.organisationId } as const;
    await recordAudit(tx, actor, 'tags.written', subject, clock, { count: written });
    return { written };
  });
}
