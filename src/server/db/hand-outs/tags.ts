import type { NewHandOut, TagState } from './hand-outs';
import type { HandOutRow } from './hand-outs';
import type { Tx } from '../pool';

/** Tags of records that are reached, of all or of some. */
type Within = 'all' | string[];
const reached = (within: Within): { sql: string; bind: string[][] } =>
  within === 'all' ? { sql: 'true', bind: [] } : { sql: 'o.record_id = ANY (?::uuid[])', bind: [within] };

/** What is known of a tag among many. */
export type TagRow = Pick<
  HandOutRow,
  'id' | 'organisation_id' | 'card_id' | 'code' | 'number' | 'content' | 'frozen' | 'tag' | 'state'
> & { record_id: string; person: string; audience: string };

/** Tags of a placement by person, so many. */
export const tagsAt = async (tx: Tx, placementId: string, within: Within, most: number): Promise<TagRow[]> => {
  const { sql, bind } = reached(within);
  return (
    await tx.raw<{ rows: TagRow[] }>(
      `SELECT h.id, h.organisation_id, h.card_id, h.code, h.number, h.content, h.frozen, h.tag, h.state, o.record_id, r.written_name AS person, o.audience
       FROM hand_outs h JOIN cards o ON o.id = h.card_id JOIN records r ON r.id = o.record_id
       WHERE h.placement_id = ? AND h.channel = 'tag' AND h.state <> 'retired' AND ${sql}
       ORDER BY r.written_name, h.created_at, h.id LIMIT ?`,
      [placementId, ...bind, most],
    )
  ).rows;
};

export type TagPlacement = { id: string; name: string; tags: number; written: number };

/** Placements that have tags, the newest ones first, or one of them, with how many of them are written. */
export const tagPlacements = async (tx: Tx, within: Within, one: string | null = null): Promise<TagPlacement[]> => {
  const { sql, bind } = reached(within);
  return (
    await tx.raw<{ rows: TagPlacement[] }>(
      `SELECT p.id, p.name, count(*)::int AS tags, (count(*) FILTER (WHERE h.tag->>'writtenAt' IS NOT NULL))::int AS written
       FROM hand_outs h JOIN placements p ON p.id = h.placement_id JOIN cards o ON o.id = h.card_id
       WHERE h.channel = 'tag' AND h.state <> 'retired' AND ${sql} ${one ? 'AND p.id = ?' : ''} GROUP BY p.id, p.name, p.created_at ORDER BY p.created_at DESC, p.name LIMIT 200`,
      [...bind, ...(one ? [one] : [])],
    )
  ).rows;
};

/** Those of these cards that have a tag at a placement. */
export const cardsWithTag = async (tx: Tx, placementId: string, cards: string[]): Promise<Set<string>> =>
  new Set(
    (
      await tx('hand_outs')
        .where({ placement_id: placementId, channel: 'tag' })
        .whereNot({ state: 'retired' })
        .whereIn('card_id', cards)
        .select<{ card_id: string }[]>('card_id')
    ).map(({ card_id }) => card_id),
  );

/** Makes many hand-outs with their codes at once. */
export async function insertTags(tx: Tx, rows: (NewHandOut & { tag: TagState })[]): Promise<void> {
  if (rows.length === 0) return;
  await tx('directory_codes').insert(
    rows.map(({ organisation_id, code, card_id, id }) => ({ organisation_id, code, card_id, hand_out_id: id })),
  );
  await tx('hand_outs').insert(
    rows.map((row) => ({ ...row, content: JSON.stringify(row.content), tag: JSON.stringify(row.tag) })),
  );
}

/** Notes that live tags among these were written now, those that were not; answers with how many. */
export const markTagsWritten = async (tx: Tx, ids: string[], at: Date): Promise<number> =>
  tx('hand_outs')
    .whereIn('id', ids)
    .where({ channel: 'tag', frozen: null })
    .whereRaw(`tag->>'writtenAt' IS NULL AND tag IS NOT NULL`)
    .update({
      tag: tx.raw(`tag || jsonb_build_object('writtenAt', ?::text, 'writes', (tag->>'writes')::int + 1)`, [
        at.toISOString(),
      ]),
    });

/** Whose these tags are. */
export const ownersOfTags = async (tx: Tx, ids: string[]): Promise<{ id: string; record_id: string }[]> =>
  tx('hand_outs as h')
    .join('cards as o', 'o.id', 'h.card_id')
    .whereIn('h.id', ids)
    .where('h.channel', 'tag')
    .select('h.id', 'o.record_id');
