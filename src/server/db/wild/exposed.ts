import type { Privacy } from '@/core/card';
import type { PublicChannel } from '@/core/shown';
import type { GivenOut } from '@/core/wild';
import type { Tx } from '../pool';
import { publicNow } from './public-now';

/** A value that cards of a record give out or copies of them carry, with what is held of it now. */
export type GivenRow = GivenOut & { record_id: string; privacy: Privacy | null };

/** Everything that is given out of these records, each value once however often it is. */
export const givenOut = async (tx: Tx, records: string[]): Promise<GivenRow[]> =>
  (
    await tx.raw<{ rows: GivenRow[] }>(
      `SELECT DISTINCT o.record_id, v.line, v.kind, v.value, v.source, v.detail, v.privacy FROM cards o
       CROSS JOIN LATERAL (
         SELECT p.line, p.kind, p.value, p.source, p.detail, p.privacy FROM published_values p WHERE p.card_id = o.id
         UNION ALL
         SELECT k.line, k.kind, k.value, k.source, k.detail, k.privacy FROM copies c JOIN carried k ON k.copy_id = c.id WHERE c.card_id = o.id
       ) v WHERE o.record_id = ANY (?::uuid[]) AND v.source IN ('card', 'inside') AND v.kind <> 'name'`,
      [records],
    )
  ).rows;

type Judged = Pick<GivenRow, 'record_id' | 'line' | 'kind' | 'value' | 'source' | 'privacy'>;

/** Writes down which of these values are private, wherever they are given out. */
export async function writePrivacy(tx: Tx, judged: Judged[]): Promise<void> {
  const rows = JSON.stringify(
    judged.map(({ record_id, line, kind, value, source, privacy }) => ({
      ...{ record_id, line, kind, value, source, privacy },
    })),
  );
  const AMONG = `(SELECT o.id AS card_id, j.* FROM json_to_recordset(?::json)
    AS j(record_id uuid, line text, kind text, value text, source text, privacy text) JOIN cards o ON o.record_id = j.record_id)`;
  const SAME =
    'v.line = j.line AND v.kind = j.kind AND v.value = j.value AND v.source = j.source AND v.privacy IS DISTINCT FROM j.privacy';
  await tx.raw(
    `UPDATE published_values v SET privacy = j.privacy FROM ${AMONG} j WHERE v.card_id = j.card_id AND ${SAME}`,
    [rows],
  );
  await tx.raw(
    `UPDATE carried v SET privacy = j.privacy FROM ${AMONG} j JOIN copies c ON c.card_id = j.card_id WHERE v.copy_id = c.id AND ${SAME}`,
    [rows],
  );
}

/** Some records of before it was known what of them is private. */
export const unjudged = async (tx: Tx, most: number): Promise<string[]> =>
  (await tx('records').whereRaw('NOT judged').orderBy('id').limit(most).select<{ id: string }[]>('id')).map(
    ({ id }) => id,
  );

export const setJudged = (tx: Tx, ids: string[]) => tx('records').whereIn('id', ids).update({ judged: true });

export const countUnjudged = async (tx: Tx): Promise<number> =>
  Number((await tx('records').whereRaw('NOT judged').count<{ count: string }[]>())[0]!.count);

/** What is looked for: of all people or of some, one kind, one form, people found by words. */
export type ExposedBy = {
  within: 'all' | string[];
  privacy: Privacy | null;
  channel: PublicChannel | null;
  words: string[];
};

function narrowed({ within, privacy, channel, words }: ExposedBy): { sql: string; bind: (string | string[])[] } {
  const parts: [string, string | string[]][] = [];
  if (within !== 'all') parts.push(['o.record_id = ANY (?::uuid[])', within]);
  if (privacy) parts.push(["split_part(e, '/', 1) = ?", privacy]);
  if (channel) parts.push(["split_part(e, '/', 2) = ?", channel]);
  if (words.length > 0) parts.push(['o.record_id IN (SELECT record_id FROM find_people(?::text[]))', words]);
  return {
    sql: ["o.exposed <> '{}'", ...parts.map(([sql]) => sql)].join(' AND '),
    bind: parts.map(([, bind]) => bind),
  };
}

const EXPOSED = 'cards o CROSS JOIN LATERAL unnest(o.exposed) e';

/** How many people have something private in public, by kind and form; null is any. */
export type ExposedCount = { privacy: Privacy | null; channel: PublicChannel | null; people: number };
export const countExposed = async (tx: Tx, of: ExposedBy): Promise<ExposedCount[]> => {
  const { sql, bind } = narrowed(of);
  return (
    await tx.raw<{ rows: ExposedCount[] }>(
      `SELECT privacy, channel, count(DISTINCT record_id)::int AS people
       FROM (SELECT o.record_id, split_part(e, '/', 1) AS privacy, split_part(e, '/', 2) AS channel FROM ${EXPOSED} WHERE ${sql}) found
       GROUP BY GROUPING SETS ((privacy, channel), (privacy), ())`,
      bind,
    )
  ).rows;
};

/** Those people, by name, some of them after a place. */
export const exposedPeople = async (
  tx: Tx,
  of: ExposedBy,
  { after, most }: { after: { name: string; id: string } | null; most: number },
): Promise<{ id: string; written_name: string }[]> => {
  const { sql, bind } = narrowed(of);
  return (
    await tx.raw<{ rows: { id: string; written_name: string }[] }>(
      `SELECT r.id, r.written_name FROM records r WHERE r.id IN (SELECT o.record_id FROM ${EXPOSED} WHERE ${sql})
       ${after ? 'AND (r.written_name, r.id) > (?, ?::uuid)' : ''} ORDER BY r.written_name, r.id LIMIT ?`,
      [...bind, ...(after ? [after.name, after.id] : []), most],
    )
  ).rows;
};

/** A value that is public now, on one card and in one form. */
export type PublicRow = Omit<GivenRow, 'source'> & {
  source: 'card' | 'inside' | 'house' | 'typed';
  card_id: string;
  audience: string;
  label: string;
  channel: PublicChannel;
};

/** What is public of these people: what is private, or everything. */
export const publicOf = async (tx: Tx, records: string[], which: 'private' | 'all'): Promise<PublicRow[]> =>
  (
    await tx.raw<{ rows: PublicRow[] }>(
      `SELECT DISTINCT e.* FROM ${publicNow(which === 'all' ? 'true' : 'v.privacy IS NOT NULL')} e WHERE e.record_id = ANY (?::uuid[])
       ORDER BY e.audience, e.line, e.value`,
      [records],
    )
  ).rows;
