export const EVENT_KINDS = ['view', 'save', 'tap', 'reply', 'bot'] as const;
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

/** Views, visits, visitors, saves, taps and replies as `docs/figures.md` defines them. */
export type Figures = {
  views: number;
  visits: number;
  visitors: number;
  saves: number;
  taps: number;
  replies: number;
};

/** What is counted beside them: views with Global Privacy Control, of which visits cannot be told, and answers given to programs. */
export type Beside = { viewsWithoutVisitor: number; bots: number };

/**
 * The figures of one local day (`2026-03-29`), card and hand-out. `visitors` are those of the whole organisation who came here first on
 * that day, so that they add up over its cards; `cardVisitors` those of the card who came by this hand-out first.
 */
export type DayFigures = Figures & Beside & { day: string; card: string; handOut: string | null; cardVisitors: number };

export const noFigures = (): Figures => ({ views: 0, visits: 0, visitors: 0, saves: 0, taps: 0, replies: 0 });

/** A gap of this length ends a visit (the usual definition in web measurement; common practice). */
const VISIT_GAP_MS = 30 * 60_000;

type Visit = { lastView: number; lastAct: number; saved: boolean; tapped: Set<string> };

export type Tally = {
  /** Counts further events, none of them earlier than those before. */
  add: (events: Iterable<ResponseEvent>) => void;
  rows: () => DayFigures[];
};

/**
 * Counts events as they come, in the order of their time, so that thousands need not be held at once; `dayAt` says on which local day an
 * instant (milliseconds, UTC) lies. A visit belongs to the day and
 * hand-out of its first view; a visitor to those of the first view that day. A save is counted once a visit, and so is the tap on a line.
 */
export function createTally(dayAt: (instant: number) => string): Tally {
  const rows = new Map<string, DayFigures>();
  let today = '';
  /** Of the day that is being counted: a hash tells a visitor again only within it. */
  let visits = new Map<string, Visit>();
  let visitors = new Set<string>();

  function rowOf(day: string, { card, handOut }: ResponseEvent): DayFigures {
    const key = `${day} ${card} ${handOut ?? ''}`;
    let row = rows.get(key);
    if (!row)
      rows.set(
        key,
        (row = { day, card, handOut, ...noFigures(), cardVisitors: 0, viewsWithoutVisitor: 0, bots: 0 } as DayFigures),
      );
    return row;
  }

  function count(event: ResponseEvent): void {
    const day = dayAt(event.at);
    if (day !== today) {
      today = day;
      visits = new Map();
      visitors = new Set();
    }
    const row = rowOf(day, event);
    const { kind, visitor, card, at } = event;
    if (kind === 'bot') {
      row.bots += 1;
      return;
    }
    // The same sent twice is one already, and who sent it is not known here.
    if (kind === 'reply') {
      row.replies += 1;
      return;
    }
    if (kind === 'view') row.views += 1;
    if (visitor === null) {
      if (kind === 'view') row.viewsWithoutVisitor += 1;
      if (kind === 'save') row.saves += 1;
      if (kind === 'tap') row.taps += 1;
      return;
    }
    const key = `${visitor} ${card}`;
    const known = visits.get(key);
    const viewed = known !== undefined && known.lastView > -Infinity;
    const begins = kind === 'view' && !(viewed && at - known.lastView < VISIT_GAP_MS);
    // A view after a gap of views ends what was before it; one after an act without any view goes on with it.
    const goesOn = known !== undefined && !(begins && viewed) && at - known.lastAct < VISIT_GAP_MS;
    if (begins) row.visits += 1;
    if (kind === 'save' && !(goesOn && known.saved)) row.saves += 1;
    const tapped = goesOn ? known.tapped : new Set<string>();
    if (kind === 'tap' && !tapped.has(event.line ?? '')) {
      row.taps += 1;
      tapped.add(event.line ?? '');
    }
    visits.set(key, {
      lastView: kind === 'view' ? at : (known?.lastView ?? -Infinity),
      lastAct: at,
      saved: kind === 'save' || (goesOn && known.saved),
      tapped,
    });
    // A visitor is one hash of a day for the whole organisation, and once more for each card they looked at.
    if (kind === 'view' && !visitors.has(visitor)) {
      visitors.add(visitor);
      row.visitors += 1;
    }
    if (kind === 'view' && !viewed) row.cardVisitors += 1;
  }

  return {
    add: (events) => {
      for (const event of events) count(event);
    },
    rows: () => [...rows.values()],
  };
}
