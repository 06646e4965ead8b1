import type { CopyChannel } from '@/core/shown';
import type { Source, Value, ValueKind } from '@/core/wild';
import type { Tx } from '../pool';
import { OLD } from './count';
import { STILL_OUT } from './public-now';

/** Of a hand-out, of these cards, of those of these records, or of all. */
export type CopiesOf = { handOut: string } | { cards: string[] } | { records: string[] } | 'all';

/** A condition on the copy `c` and its card `o`, and what it stands for. */
function within(of: CopiesOf): { sql: string; bind: (string | string[])[] } {
  if (of === 'all') return { sql: 'true', bind: [] };
  if ('handOut' in of) return { sql: 'c.hand_out_id = ?', bind: [of.handOut] };
  return 'cards' in of
    ? { sql: 'o.id = ANY (?::uuid[])', bind: [of.cards] }
    : { sql: 'o.record_id = ANY (?::uuid[])', bind: [of.records] };
}

export type CopyRow = {
  id: string;
  card_id: string;
  record_id: string;
  person: string;
  audience: string;
  hand_out_id: string | null;
  placement: string | null;
  code: string | null;
  /** Whether the code of its hand-out is live, so that a scan of it shows today's card. */
  live: boolean;
  state: 'out' | 'resting' | 'retired' | null;
  channel: CopyChannel;
  revision: number;
  copies: number | null;
  place: string | null;
  made_at: Date;
  /** The day that a run was printed on, `YYYY-MM-DD`. */
  printed_on: string | null;
  done_at: Date | null;
};

const COLUMNS = `c.id, c.card_id, o.record_id, r.written_name AS person, o.audience, c.hand_out_id, h.placement, h.code, h.frozen IS NULL AS live,
  h.state, c.channel, c.revision, coalesce(n.copies, c.copies) AS copies, n.place, c.made_at, n.printed_on::text AS printed_on, c.done_at`;

export type Page = { after: { at: Date; id: string } | null; most: number };

/** Copies in the order of when they went out, the latest first: those that are out of date, all, or those that carry one of these values. */
export async function copiesOf(
  tx: Tx,
  of: CopiesOf,
  which: 'wild' | 'all' | { values: string[] },
  { after, most }: Page,
): Promise<CopyRow[]> {
  const { sql, bind } = within(of);
  const carries =
    which === 'all'
      ? `c.channel NOT IN ('file', 'mail')`
      : which === 'wild'
        ? `o.stale AND c.channel NOT IN ('file', 'mail') AND coalesce(h.state, 'out') <> 'retired' AND EXISTS (SELECT FROM carried k WHERE k.copy_id = c.id AND ${OLD})`
        : `c.id IN (SELECT k.copy_id FROM carried k WHERE md5(k.value) = ANY (ARRAY(SELECT md5(v) FROM unnest(?::text[]) v)) AND k.value = ANY (?::text[]))`;
  const values = typeof which === 'object' ? [which.values, which.values] : [];
  // Which they are first, and of those few all that is shown.
  const { rows } = await tx.raw<{ rows: CopyRow[] }>(
    `SELECT ${COLUMNS} FROM (
       SELECT c.* FROM copies c JOIN cards o ON o.id = c.card_id ${which === 'wild' ? 'LEFT JOIN hand_outs h ON h.id = c.hand_out_id' : ''}
       WHERE ${sql} AND ${carries} ${after ? 'AND (c.made_at, c.id) < (?, ?)' : ''} ORDER BY c.made_at DESC, c.id DESC LIMIT ?
     ) c JOIN cards o ON o.id = c.card_id JOIN records r ON r.id = o.record_id
     LEFT JOIN hand_outs h ON h.id = c.hand_out_id LEFT JOIN print_runs n ON n.id = c.run_id ORDER BY c.made_at DESC, c.id DESC`,
    [...bind, ...values, ...(after ? [after.at, after.id] : []), most],
  );
  return rows;
}

export type CarriedRow = {
  copy_id: string;
  line: string;
  kind: ValueKind;
  value: string;
  source: Source;
  label: string;
  detail: Value;
  old: boolean;
};

/** What these copies carry, each value with whether it is out of date. */
export const carriedBy = async (tx: Tx, copies: string[]): Promise<CarriedRow[]> =>
  (
    await tx.raw<{ rows: CarriedRow[] }>(
      `SELECT k.copy_id, k.line, k.kind, k.value, k.source, k.label, k.detail, ${OLD} AS old
       FROM carried k JOIN copies c ON c.id = k.copy_id JOIN cards o ON o.id = c.card_id
       WHERE k.copy_id = ANY (?::uuid[])`,
      [copies],
    )
  ).rows;

/** What these cards, the house style and the offices of their people give out now, by card and line; of the house style no card is named. */
export const publishedNow = async (
  tx: Tx,
  cards: string[],
): Promise<{ card_id: string | null; line: string; kind: ValueKind; detail: Value }[]> =>
  (
    await tx.raw<{ rows: { card_id: string | null; line: string; kind: ValueKind; detail: Value }[] }>(
      `SELECT v.card_id, v.line, v.kind, v.detail FROM published_values v
       WHERE v.source <> 'inside' AND (v.card_id = ANY (:cards::uuid[]) OR (v.card_id IS NULL AND v.office_id IS NULL))
       UNION ALL
       SELECT c.id, v.line, v.kind, v.detail FROM cards c JOIN records r ON r.id = c.record_id
       JOIN published_values v ON v.office_id = r.office_id WHERE v.source <> 'inside' AND c.id = ANY (:cards::uuid[])`,
      { cards },
    )
  ).rows;

/** How many out-of-date copies there are to deal with, by card. */
export async function countWild(tx: Tx, of: CopiesOf): Promise<Map<string, number>> {
  const { sql, bind } = within(of);
  // A card knows its own; of one hand-out they are looked at.
  const counted =
    of !== 'all' && 'handOut' in of
      ? `SELECT c.card_id, count(*)::int AS count FROM copies c JOIN cards o ON o.id = c.card_id LEFT JOIN hand_outs h ON h.id = c.hand_out_id
         WHERE ${sql} AND ${STILL_OUT} AND EXISTS (SELECT FROM carried k WHERE k.copy_id = c.id AND ${OLD}) GROUP BY c.card_id`
      : `SELECT o.id AS card_id, o.wild AS count FROM cards o WHERE o.wild > 0 AND ${sql}`;
  const { rows } = await tx.raw<{ rows: { card_id: string; count: number }[] }>(counted, bind);
  return new Map(rows.map(({ card_id, count }) => [card_id, count]));
}

/** Phones that saved a contact, by card and revision: a device counts once a day, one that does not tell itself apart each time. */
export const savedContacts = async (
  tx: Tx,
  cards: string[],
): Promise<{ card_id: string; revision: number; count: number }[]> =>
  (
    await tx.raw<{ rows: { card_id: string; revision: number; count: number }[] }>(
      `SELECT card_id, revision, (count(DISTINCT visitor) + count(*) FILTER (WHERE visitor IS NULL))::int AS count
       FROM events WHERE kind = 'save' AND revision IS NOT NULL AND card_id = ANY (?::uuid[]) GROUP BY card_id, revision`,
      [cards],
    )
  ).rows;

/** How many contacts of these cards went along with messages or were shared. */
export const sentContacts = async (tx: Tx, cards: string[]): Promise<number> =>
  Number(
    (
      await tx('copies').whereIn('card_id', cards).where({ channel: 'mail' }).sum<{ sum: string | null }[]>('copies')
    )[0]!.sum ?? 0,
  );

export type GoneRow = Pick<CopyRow, 'id' | 'card_id' | 'person' | 'audience' | 'channel' | 'revision' | 'copies'>;

/** Contacts of these cards that cannot be called back, saved or sent along, that carry something out of date. */
export async function goneContacts(tx: Tx, of: CopiesOf, most: number): Promise<GoneRow[]> {
  const { sql, bind } = within(of);
  const { rows } = await tx.raw<{ rows: GoneRow[] }>(
    `SELECT c.id, c.card_id, c.channel, c.revision, c.copies, r.written_name AS person, o.audience
     FROM copies c JOIN cards o ON o.id = c.card_id JOIN records r ON r.id = o.record_id
     WHERE ${sql} AND o.stale AND c.channel IN ('file', 'mail') AND EXISTS (SELECT FROM carried k WHERE k.copy_id = c.id AND ${OLD})
     ORDER BY c.made_at DESC LIMIT ?`,
    [...bind, most],
  );
  return rows;
}

/** What is out of the values of a record's details, by line, value and channel: entries, copies where they are counted, and placements of some. */
export type OutOfRecord = {
  line: string;
  value: string;
  channel: CopyChannel;
  pieces: number;
  copies: number | null;
  placements: string[] | null;
};

/** Copies of the cards of a record by the lines that follow it: not those that say it in words of the card's own, nor a part of it. */
export const outOfRecord = async (tx: Tx, recordId: string): Promise<OutOfRecord[]> =>
  (
    await tx.raw<{ rows: OutOfRecord[] }>(
      `WITH saves AS (
         SELECT e.card_id, e.revision, (count(DISTINCT e.visitor) + count(*) FILTER (WHERE e.visitor IS NULL))::int AS count
         FROM events e JOIN cards o ON o.id = e.card_id WHERE o.record_id = ? AND e.kind = 'save' GROUP BY e.card_id, e.revision
       )
       SELECT k.line, k.value, c.channel, count(*)::int AS pieces, sum(coalesce(n.copies, c.copies, s.count))::int AS copies,
         (array_agg(DISTINCT h.placement) FILTER (WHERE h.placement IS NOT NULL))[1:3] AS placements
       FROM copies c JOIN cards o ON o.id = c.card_id JOIN carried k ON k.copy_id = c.id
       LEFT JOIN hand_outs h ON h.id = c.hand_out_id LEFT JOIN print_runs n ON n.id = c.run_id
       LEFT JOIN saves s ON c.channel = 'file' AND s.card_id = c.card_id AND s.revision = c.revision
       WHERE o.record_id = ? AND k.source = 'card' AND c.done_at IS NULL AND coalesce(h.state, 'out') <> 'retired'
         AND (c.channel <> 'file' OR s.count > 0)
         AND NOT EXISTS (SELECT FROM jsonb_array_elements(o.lines) l WHERE l->>'detail' = k.line AND (l->>'wording' IS NOT NULL OR l->>'part' IS NOT NULL))
       GROUP BY k.line, k.value, c.channel`,
      [recordId, recordId],
    )
  ).rows;

/** How many copies of these cards, neither dealt with nor given up, carry one of these values. */
export const countCarrying = async (tx: Tx, cards: string[], values: string[]): Promise<number> =>
  (
    await tx.raw<{ rows: { count: number }[] }>(
      `SELECT count(DISTINCT c.id)::int AS count FROM copies c JOIN carried k ON k.copy_id = c.id
       LEFT JOIN hand_outs h ON h.id = c.hand_out_id
       WHERE c.card_id = ANY (?::uuid[]) AND k.value = ANY (?::text[]) AND k.source = 'card' AND ${STILL_OUT}`,
      [cards, values],
    )
  ).rows[0]!.count;
