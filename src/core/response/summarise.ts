import { dayOf, daysBetween } from './days';

export const EVENT_KINDS = ['view', 'save', 'tap', 'bot'] as const;
export type EventKind = (typeof EVENT_KINDS)[number];

/** One act of a recipient. `visitor` is null where Global Privacy Control forbade a hash; `at` is in milliseconds, UTC. */
export type ResponseEvent = {
  kind: EventKind;
  card: string;
  handOut: string | null;
  visitor: string | null;
  /** Of a tap the line. */
  line?: string | null;
  at: number;
};

/** Views, visits, visitors, saves and taps as `product.md` defines them. */
export type Figures = { views: number; visits: number; visitors: number; saves: number; taps: number };

export type Summary = {
  days: ({ day: string } & Figures)[];
  handOuts: ({ handOut: string | null } & Figures)[];
  cards: ({ card: string } & Figures)[];
  totals: Figures;
  /** Views with Global Privacy Control: they count as views, visits cannot be told. */
  viewsWithoutVisitor: number;
  /** Answers given to programs, in none of the figures. */
  bots: number;
};

/** A gap of this length ends a visit (the usual definition in web measurement; common practice). */
const VISIT_GAP_MS = 30 * 60_000;

const none = (): Figures => ({ views: 0, visits: 0, visitors: 0, saves: 0, taps: 0 });

/**
 * The figures of a period, by local day, by hand-out and by card; each breakdown adds up to the totals. A visit belongs to
 * the day and hand-out of its first view; a visitor to those of the first act that day. A save is counted once a
 * visit, and so is the tap on a line.
 * Visitors of several days are added up and may repeat, since the hash changes at midnight.
 */
export function summarise(events: ResponseEvent[], period: { first: string; last: string; timeZone: string }): Summary {
  const days = new Map(daysBetween(period.first, period.last).map((day) => [day, none()]));
  const handOuts = new Map<string | null, Figures>();
  const cards = new Map<string, Figures>();
  const totals = none();
  let viewsWithoutVisitor = 0;
  let bots = 0;
  const visits = new Map<string, { lastView: number; lastAct: number; saved: boolean; tapped: Set<string> }>();
  const visitors = new Set<string>();
  const byCard = new Set<string>();

  for (const event of [...events].sort((a, b) => a.at - b.at)) {
    const day = dayOf(event.at, period.timeZone);
    const ofDay = days.get(day);
    if (!ofDay) continue;
    if (event.kind === 'bot') {
      bots += 1;
      continue;
    }
    const ofHandOut = entry(handOuts, event.handOut);
    const ofCard = entry(cards, event.card);
    const count = (figure: keyof Figures) =>
      [ofDay, ofHandOut, ofCard, totals].forEach((figures) => (figures[figure] += 1));

    if (event.kind === 'view') count('views');
    if (event.visitor === null) {
      if (event.kind === 'view') viewsWithoutVisitor += 1;
      if (event.kind === 'save') count('saves');
      if (event.kind === 'tap') count('taps');
      continue;
    }
    const key = `${day} ${event.visitor} ${event.card}`;
    const known = visits.get(key);
    const begins = event.kind === 'view' && !(known && event.at - known.lastView < VISIT_GAP_MS);
    // A view after a gap of views ends what was before it; one after an act without any view goes on with it.
    const anew = begins && known !== undefined && known.lastView > -Infinity;
    const goesOn = known !== undefined && !anew && event.at - known.lastAct < VISIT_GAP_MS;
    if (begins) count('visits');
    if (event.kind === 'save' && !(goesOn && known.saved)) count('saves');
    const tapped = goesOn ? known.tapped : new Set<string>();
    if (event.kind === 'tap' && !tapped.has(event.line ?? '')) {
      count('taps');
      tapped.add(event.line ?? '');
    }
    visits.set(key, {
      lastView: event.kind === 'view' ? event.at : (known?.lastView ?? -Infinity),
      lastAct: event.at,
      saved: event.kind === 'save' || (goesOn && known.saved),
      tapped,
    });
    // A visitor is one hash of a day for the whole organisation, and once more for each card they looked at.
    if (event.kind === 'view' && !visitors.has(`${day} ${event.visitor}`)) {
      visitors.add(`${day} ${event.visitor}`);
      [ofDay, ofHandOut, totals].forEach((figures) => (figures.visitors += 1));
    }
    if (event.kind === 'view' && !byCard.has(key)) {
      byCard.add(key);
      ofCard.visitors += 1;
    }
  }
  return {
    days: [...days].map(([day, figures]) => ({ day, ...figures })),
    handOuts: [...handOuts].map(([handOut, figures]) => ({ handOut, ...figures })).sort((a, b) => b.views - a.views),
    cards: [...cards].map(([card, figures]) => ({ card, ...figures })),
    totals,
    viewsWithoutVisitor,
    bots,
  };
}

function entry<K>(map: Map<K, Figures>, key: K): Figures {
  const known = map.get(key);
  if (known) return known;
  const made = none();
  map.set(key, made);
  return made;
}
