import type { Knex } from 'knex';
import type { DayFigures, Figures, ResponseEvent } from '@/core/response';
import type { Tx } from '../pool';

type StoredFigures = Figures & { without_visitor: number; bots: number };
const FIGURES = ['views', 'visits', 'visitors', 'saves', 'taps', 'replies', 'without_visitor', 'bots'] as const;

/** A local day with events: its figures where they are kept; `due` where something came in since they were counted. */
export type ResponseDay = StoredFigures & { day: string; due: boolean; touched: number };

/** Days that are over and due, of whichever organisation. */
export const dueResponseDays = async (
  db: Knex,
  at: Date,
  most: number,
): Promise<{ organisation_id: string; day: string; time_zone: string }[]> =>
  (
    await db.raw<{ rows: { organisation_id: string; day: string; time_zone: string }[] }>(
      'SELECT * FROM due_response_days(?, ?)',
      [at, most],
    )
  ).rows;

/** The days of a period that have events, both ends included. */
export const responseDays = async (tx: Tx, first: string, last: string): Promise<ResponseDay[]> =>
  tx('response_days')
    .whereBetween('day', [first, last])
    .orderBy('day')
    .select(tx.raw('day::text AS day'), 'due', 'touched', ...FIGURES);

type Row = StoredFigures & { day: string; card_id: string; hand_out_id: string | null; card_visitors: number };

/** The figures that are kept of these cards in a period, both ends included. */
export const keptFigures = async (tx: Tx, cardIds: string[], first: string, last: string): Promise<DayFigures[]> => {
  const rows: Row[] = await tx('response_figures as f')
    .join('response_days as d', 'd.day', 'f.day')
    .whereIn('f.card_id', cardIds)
    .whereBetween('f.day', [first, last])
    .where('d.due', false)
    .select(tx.raw('f.day::text AS day'), 'f.card_id', 'f.hand_out_id', 'f.card_visitors')
    .select(...FIGURES.map((name) => `f.${name}`));
  return rows.map(({ card_id: card, hand_out_id: handOut, card_visitors: cardVisitors, ...row }) => ({
    ...row,
    card,
    handOut,
    cardVisitors,
    viewsWithoutVisitor: row.without_visitor,
  }));
};

export type KeptByHandOut = {
  rows: (Figures & { hand_out_id: string })[];
  /** How many hand-outs have figures, and what these are in all. */
  of: number;
  sum: Figures;
};

const SUMS = FIGURES.slice(0, 6);

/** The kept figures of a period by hand-out: of the `most` with the most views, and of those in `also`. */
export async function keptByHandOut(
  tx: Tx,
  first: string,
  last: string,
  { most, also }: { most: number; also: string[] },
): Promise<KeptByHandOut> {
  const { rows } = await tx.raw<{ rows: (Figures & { hand_out_id: string | null; of: number })[] }>(
    `WITH g AS (
       SELECT f.hand_out_id, ${SUMS.map((name) => `sum(f.${name}) AS ${name}`).join(', ')} FROM response_figures f
       WHERE f.hand_out_id IS NOT NULL AND f.day BETWEEN ? AND ? AND f.day NOT IN (SELECT d.day FROM response_days d WHERE d.due)
       GROUP BY f.hand_out_id HAVING ${SUMS.map((name) => `sum(f.${name})`).join(' + ')} > 0
     )
     SELECT NULL AS hand_out_id, count(*)::int AS of, ${SUMS.map((name) => `coalesce(sum(${name}), 0)::int AS ${name}`).join(', ')} FROM g
     UNION ALL
     (SELECT hand_out_id, 0, ${SUMS.map((name) => `${name}::int`).join(', ')} FROM g ORDER BY g.views DESC, hand_out_id LIMIT ?)
     UNION
     SELECT hand_out_id, 0, ${SUMS.map((name) => `${name}::int`).join(', ')} FROM g WHERE hand_out_id = ANY (?::uuid[])`,
    [first, last, most, also],
  );
  const { of, hand_out_id: _all, ...sum } = rows.find(({ hand_out_id }) => hand_out_id === null)!;
  const named = rows.flatMap(({ of: _of, hand_out_id, ...figures }) =>
    hand_out_id === null ? [] : [{ hand_out_id, ...figures }],
  );
  return { rows: named, of, sum };
}

/** Keeps the figures of a day, unless something came in after it had been read at `touched`; answers whether it did. */
export async function keepFigures(
  tx: Tx,
  day: { organisation_id: string; day: string; touched: number },
  rows: DayFigures[],
): Promise<boolean> {
  const { organisation_id, day: of, touched } = day;
  const sum = (key: keyof Figures | 'viewsWithoutVisitor' | 'bots') => rows.reduce((total, row) => total + row[key], 0);
  const kept = await tx('response_days')
    .where({ organisation_id, day: of, touched })
    .update({
      due: false,
      ...{ views: sum('views'), visits: sum('visits'), visitors: sum('visitors') },
      ...{ saves: sum('saves'), taps: sum('taps'), replies: sum('replies') },
      without_visitor: sum('viewsWithoutVisitor'),
      bots: sum('bots'),
    });
  if (kept === 0) return false;
  await tx('response_figures').where({ organisation_id, day: of }).delete();
  await tx.raw(
    `INSERT INTO response_figures (organisation_id, day, card_id, hand_out_id, views, visits, visitors, saves, taps, replies, without_visitor, bots, card_visitors)
     SELECT ?, ?, card, "handOut", views, visits, visitors, saves, taps, replies, "viewsWithoutVisitor", bots, "cardVisitors"
     FROM json_to_recordset(?::json) AS r(card uuid, "handOut" uuid, views int, visits int, visitors int, saves int, taps int, replies int,
       "viewsWithoutVisitor" int, bots int, "cardVisitors" int)`,
    [organisation_id, of, JSON.stringify(rows)],
  );
  return true;
}

/** The day of the last view, save, tap or reply of each hand-out of a card (`YYYY-MM-DD`), of its short address under null. */
export const lastUses = async (
  tx: Tx,
  cardId: string,
  timeZone: string,
): Promise<{ hand_out_id: string | null; day: string }[]> =>
  (
    await tx.raw<{ rows: { hand_out_id: string | null; day: string }[] }>(
      `SELECT hand_out_id, max(day)::text AS day FROM (
         SELECT f.hand_out_id, f.day FROM response_figures f JOIN response_days d ON d.day = f.day AND NOT d.due
         WHERE f.card_id = :cardId AND f.views + f.saves + f.taps + f.replies > 0
         UNION ALL
         SELECT e.hand_out_id, d.day FROM response_days d JOIN events e ON e.card_id = :cardId AND e.kind <> 'bot'
           AND e.occurred_at >= d.day::timestamp AT TIME ZONE :timeZone AND e.occurred_at < (d.day + 1)::timestamp AT TIME ZONE :timeZone
         WHERE d.due
       ) AS u GROUP BY hand_out_id`,
      { cardId, timeZone },
    )
  ).rows;

/** So many are read at once: their reader's thread is others' as well. */
const EVENTS_AT_ONCE = 1_000;

/** The events of a time, of all cards or of these, in their order, some hundreds at a time. */
export async function* eventsOf(
  tx: Tx,
  from: Date,
  to: Date,
  cardIds: string[] | null,
): AsyncGenerator<ResponseEvent[]> {
  await tx.raw(
    `DECLARE events_read NO SCROLL CURSOR FOR SELECT e.kind, e.card_id AS card, e.hand_out_id AS "handOut", e.line,
       encode(e.visitor, 'hex') AS visitor, extract(epoch FROM e.occurred_at)::float8 * 1000 AS at FROM events e
     WHERE e.occurred_at >= ? AND e.occurred_at < ? AND ${cardIds ? 'e.card_id = ANY (?::uuid[])' : 'EXISTS (SELECT FROM cards c WHERE c.id = e.card_id)'}
     ORDER BY e.occurred_at`,
    cardIds ? [from, to, cardIds] : [from, to],
  );
  for (let read = EVENTS_AT_ONCE; read === EVENTS_AT_ONCE;) {
    const { rows } = await tx.raw<{ rows: ResponseEvent[] }>(`FETCH ${EVENTS_AT_ONCE} FROM events_read`);
    read = rows.length;
    if (read > 0) yield rows;
  }
  await tx.raw('CLOSE events_read');
}
