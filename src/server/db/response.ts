import type { Knex } from 'knex';
import type { DayFigures, EventKind, Figures } from '@/core/response';
import type { Tx } from './pool';

type StoredFigures = Figures & { without_visitor: number; bots: number };
const FIGURES = ['views', 'visits', 'visitors', 'saves', 'taps', 'without_visitor', 'bots'] as const;

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

/**
 * The kept figures of a period by hand-out: the `most` with the most views, and those of `also`; null stands for short addresses. `of` is
 * how many hand-outs have any.
 */
export const keptByHandOut = async (
  tx: Tx,
  first: string,
  last: string,
  { most, also }: { most: number; also: string[] },
): Promise<(Figures & { hand_out_id: string | null; of: number })[]> =>
  (
    await tx.raw<{ rows: (Figures & { hand_out_id: string | null; of: number })[] }>(
      `SELECT * FROM (
         SELECT f.hand_out_id, ${FIGURES.slice(0, 5)
           .map((name) => `sum(f.${name})::int AS ${name}`)
           .join(', ')},
           row_number() OVER (ORDER BY sum(f.views) DESC, f.hand_out_id) AS rank, (count(*) OVER ())::int AS of
         FROM response_figures f JOIN response_days d ON d.organisation_id = f.organisation_id AND d.day = f.day
         WHERE NOT d.due AND f.day BETWEEN ? AND ? GROUP BY f.hand_out_id
       ) g WHERE rank <= ? OR hand_out_id IS NULL OR hand_out_id = ANY (?::uuid[])`,
      [first, last, most, also],
    )
  ).rows;

/** Keeps the figures of a day, unless something came in after it had been read at `touched`; answers whether it did. */
export async function keepFigures(
  tx: Tx,
  day: { organisation_id: string; day: string; touched: number },
  rows: DayFigures[],
): Promise<boolean> {
  const { organisation_id, day: of, touched } = day;
  const sum = (key: keyof Figures | 'viewsWithoutVisitor' | 'bots') => rows.reduce((total, row) => total + row[key], 0);
  const [views, visits, visitors, saves, taps] = [
    sum('views'),
    sum('visits'),
    sum('visitors'),
    sum('saves'),
    sum('taps'),
  ];
  const kept = await tx('response_days')
    .where({ organisation_id, day: of, touched })
    .update({
      due: false,
      ...{ views, visits, visitors, saves, taps },
      without_visitor: sum('viewsWithoutVisitor'),
      bots: sum('bots'),
    });
  if (kept === 0) return false;
  await tx('response_figures').where({ organisation_id, day: of }).delete();
  await tx.raw(
    `INSERT INTO response_figures (organisation_id, day, card_id, hand_out_id, views, visits, visitors, saves, taps, without_visitor, bots, card_visitors)
     SELECT ?, ?, card, "handOut", views, visits, visitors, saves, taps, "viewsWithoutVisitor", bots, "cardVisitors"
     FROM json_to_recordset(?::json) AS r(card uuid, "handOut" uuid, views int, visits int, visitors int, saves int, taps int,
       "viewsWithoutVisitor" int, bots int, "cardVisitors" int)`,
    [organisation_id, of, JSON.stringify(rows)],
  );
  return true;
}

type StoredEvent = {
  kind: EventKind;
  card_id: string;
  hand_out_id: string | null;
  line: string | null;
  visitor: Buffer | null;
  occurred_at: Date;
};

/** So many are read at once: their reader's thread is others' as well. */
const EVENTS_AT_ONCE = 1_000;

/** The events of a time, of all cards or of these, in their order, some hundreds at a time. */
export async function* eventsOf(tx: Tx, from: Date, to: Date, cardIds: string[] | null): AsyncGenerator<StoredEvent[]> {
  await tx.raw(
    `DECLARE events_read NO SCROLL CURSOR FOR SELECT e.kind, e.card_id, e.hand_out_id, e.line, e.visitor, e.occurred_at FROM events e
     WHERE e.occurred_at >= ? AND e.occurred_at < ? AND ${cardIds ? 'e.card_id = ANY (?::uuid[])' : 'EXISTS (SELECT FROM cards c WHERE c.id = e.card_id)'}
     ORDER BY e.occurred_at`,
    cardIds ? [from, to, cardIds] : [from, to],
  );
  for (let read = EVENTS_AT_ONCE; read === EVENTS_AT_ONCE;) {
    const { rows } = await tx.raw<{ rows: StoredEvent[] }>(`FETCH ${EVENTS_AT_ONCE} FROM events_read`);
    read = rows.length;
    if (read > 0) yield rows;
  }
  await tx.raw('CLOSE events_read');
}
