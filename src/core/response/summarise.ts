import { dayOf, daysBetween } from './days';
import { createTally, noFigures, type Beside, type DayFigures, type Figures, type ResponseEvent } from './tally';

export type Summary = Beside & {
  days: ({ day: string } & Figures)[];
  handOuts: ({ handOut: string | null } & Figures)[];
  cards: ({ card: string } & Figures)[];
  totals: Figures;
  /** Hand-outs that are not told one by one, added up; null where all are. */
  others: ({ count: number } & Figures) | null;
};

export type Period = { first: string; last: string };

const KEYS = Object.keys(noFigures()) as (keyof Figures)[];

/** Adds figures to others, in place. */
const addTo = (sum: Figures, figures: Figures): void => KEYS.forEach((key) => (sum[key] += figures[key]));

/** The figures of a period, added up by local day, by hand-out and by card; each breakdown adds up to the totals. */
export function gather(rows: DayFigures[], period: Period): Summary {
  const days = new Map(daysBetween(period.first, period.last).map((day) => [day, noFigures()]));
  const handOuts = new Map<string | null, Figures>();
  const cards = new Map<string, Figures>();
  const totals = noFigures();
  let viewsWithoutVisitor = 0;
  let bots = 0;
  for (const row of rows) {
    const ofDay = days.get(row.day);
    if (!ofDay) continue;
    bots += row.bots;
    viewsWithoutVisitor += row.viewsWithoutVisitor;
    if (KEYS.every((key) => row[key] === 0) && row.cardVisitors === 0) continue;
    for (const sum of [ofDay, entry(handOuts, row.handOut), totals]) addTo(sum, row);
    addTo(entry(cards, row.card), { ...row, visitors: row.cardVisitors });
  }
  return {
    days: [...days].map(([day, figures]) => ({ day, ...figures })),
    handOuts: [...handOuts].map(([handOut, figures]) => ({ handOut, ...figures })).sort((a, b) => b.views - a.views),
    cards: [...cards].map(([card, figures]) => ({ card, ...figures })),
    totals,
    others: null,
    viewsWithoutVisitor,
    bots,
  };
}

/** Two summaries of the same period as one: of days that were counted before and of those that are counted now. */
export function merge(one: Summary, other: Summary): Summary {
  const added = <R extends Figures>(rows: R[], keyOf: (row: R) => unknown): R[] => {
    const known = new Map<unknown, R>();
    for (const row of rows) {
      const sum = known.get(keyOf(row));
      if (sum) addTo(sum, row);
      else known.set(keyOf(row), { ...row });
    }
    return [...known.values()];
  };
  return {
    days: added([...one.days, ...other.days], ({ day }) => day),
    handOuts: added([...one.handOuts, ...other.handOuts], ({ handOut }) => handOut).sort((a, b) => b.views - a.views),
    cards: added([...one.cards, ...other.cards], ({ card }) => card),
    totals: added([one.totals, other.totals], () => '')[0]!,
    others: null,
    viewsWithoutVisitor: one.viewsWithoutVisitor + other.viewsWithoutVisitor,
    bots: one.bots + other.bots,
  };
}

/** What of figures is left when others are taken away. */
export function less(figures: Figures, others: Figures): Figures {
  const left = noFigures();
  for (const key of KEYS) left[key] = figures[key] - others[key];
  return left;
}

/** The summary with its `most` hand-outs of the most views, and the rest, of `of` in all, as what is left of the totals. */
export function mostViewed(summary: Summary, most: number, of: number): Summary {
  const handOuts = summary.handOuts.slice(0, most);
  if (of <= handOuts.length) return { ...summary, handOuts };
  const others = { count: of - handOuts.length, ...summary.totals };
  for (const row of handOuts) for (const key of KEYS) others[key] -= row[key];
  return { ...summary, handOuts, others };
}

/**
 * The figures of a period from its events, in whatever order. Visitors of several days are added up and may repeat, since the hash
 * changes at midnight.
 */
export function summarise(events: ResponseEvent[], period: Period & { timeZone: string }): Summary {
  const tally = createTally((instant) => dayOf(instant, period.timeZone));
  tally.add([...events].sort((a, b) => a.at - b.at));
  return gather(tally.rows(), period);
}

/** Figures of a card alone: its visitors are its own, whoever else they looked at. */
export const ofCardAlone = (rows: DayFigures[]): DayFigures[] =>
  rows.map((row) => ({ ...row, visitors: row.cardVisitors }));

function entry<K>(map: Map<K, Figures>, key: K): Figures {
  const known = map.get(key);
  if (known) return known;
  const made = noFigures();
  map.set(key, made);
  return made;
}
