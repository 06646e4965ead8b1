import fc from 'fast-check';
import {
  createTally,
  dayOf,
  gather,
  isTimeZone,
  judge,
  less,
  merge,
  mostViewed,
  noFigures,
  ofCardAlone,
  summarise,
  type DayFigures,
  type EventKind,
  type ResponseEvent,
} from './index';
import { daysBetween } from './days';

const PERIOD = { first: '2026-03-28', last: '2026-03-30', timeZone: 'Europe/London' };
const FROM = Date.parse('2026-03-27T20:00:00Z');
const HALF_HOUR = 30 * 60_000;

/** Acts of few people on few cards, a few minutes apart, over some days and their midnights. */
const events: fc.Arbitrary<ResponseEvent[]> = fc
  .array(
    fc.record({
      kind: fc.constantFrom<EventKind>('view', 'view', 'save', 'tap', 'reply', 'bot'),
      card: fc.constantFrom('c', 'k'),
      handOut: fc.constantFrom(null, 'x', 'y'),
      visitor: fc.constantFrom('a', 'b', null),
      line: fc.constantFrom('l', 'm', null),
      gap: fc.constantFrom(0, 60_000, HALF_HOUR - 1, HALF_HOUR, 5 * 3_600_000),
    }),
    { maxLength: 60 },
  )
  .map((acts) => {
    let at = FROM;
    return acts.map(({ gap, ...act }) => ({ ...act, at: (at += gap) }));
  });

const distinct = (list: unknown[]) => new Set(list.map((each) => JSON.stringify(each))).size;
const add = (list: number[]) => list.reduce((sum, each) => sum + each, 0);

/** Counts what the product defines, plainly: list by list, without any state. */
function plainly(all: ResponseEvent[]) {
  const within = all.filter(({ at }) => {
    const day = dayOf(at, PERIOD.timeZone);
    return day >= PERIOD.first && day <= PERIOD.last;
  });
  const dayAt = ({ at }: ResponseEvent) => dayOf(at, PERIOD.timeZone);
  const views = within.filter(({ kind }) => kind === 'view');
  const told = views.filter(({ visitor }) => visitor !== null);
  const begins = (view: ResponseEvent) => {
    const before = told.filter(
      (other) =>
        other.card === view.card &&
        other.visitor === view.visitor &&
        dayAt(other) === dayAt(view) &&
        told.indexOf(other) < told.indexOf(view),
    );
    return before.every(({ at }) => view.at - at >= HALF_HOUR);
  };
  const visitorsOf = (card?: string) =>
    distinct(
      told.filter((view) => card === undefined || view.card === card).map((view) => [dayAt(view), view.visitor]),
    );
  return {
    views: views.length,
    visits: told.filter(begins).length,
    visitors: visitorsOf(),
    viewsWithoutVisitor: views.length - told.length,
    bots: within.filter(({ kind }) => kind === 'bot').length,
    replies: within.filter(({ kind }) => kind === 'reply').length,
    ofCard: (card: string) => visitorsOf(card),
    visitsOf: (handOut: string | null) => told.filter((view) => view.handOut === handOut && begins(view)).length,
    viewsOn: (day: string) => views.filter((view) => dayAt(view) === day).length,
  };
}

test('views, visits, visitors and what is told beside them are what the definitions say, however the events come (property)', () => {
  fc.assert(
    fc.property(events, fc.infiniteStream(fc.nat()), (all, order) => {
      const wanted = plainly(all);
      // Events of one instant keep their order; others may come anyhow.
      const keys = new Map([...new Set(all.map(({ at }) => at))].map((at) => [at, order.next().value!]));
      const mixed = [...all].sort((a, b) => keys.get(a.at)! - keys.get(b.at)!);
      const given = mixed.map(({ at }) => at);
      const summary = summarise(mixed, PERIOD);
      // What was handed in stays as it was.
      expect(mixed.map(({ at }) => at)).toEqual(given);
      expect(summary.totals).toMatchObject({
        views: wanted.views,
        visits: wanted.visits,
        visitors: wanted.visitors,
        replies: wanted.replies,
      });
      expect([summary.viewsWithoutVisitor, summary.bots]).toEqual([wanted.viewsWithoutVisitor, wanted.bots]);
      for (const { card, visitors } of summary.cards) expect([card, visitors]).toEqual([card, wanted.ofCard(card)]);
      for (const row of summary.handOuts) expect(row.visits).toBe(wanted.visitsOf(row.handOut));
      for (const { day, views } of summary.days) expect([day, views]).toEqual([day, wanted.viewsOn(day)]);
      expect(summary.days.map(({ day }) => day)).toEqual(['2026-03-28', '2026-03-29', '2026-03-30']);
      // The hand-out of the most views first.
      const shown = summary.handOuts.map(({ views }) => views);
      expect(shown).toEqual([...shown].sort((a, b) => b - a));
    }),
    { numRuns: 300 },
  );
});

test('counted day by day, or in parts put together, the figures are the same (property)', () => {
  fc.assert(
    fc.property(events, fc.nat({ max: 60 }), (all, cut) => {
      const whole = summarise(all, PERIOD);
      const tally = createTally((instant) => dayOf(instant, PERIOD.timeZone));
      tally.add(all.slice(0, cut));
      tally.add(all.slice(cut));
      expect(gather(tally.rows(), PERIOD)).toEqual(whole);
      const [kept, today] = [0, 1].map((part) =>
        gather(
          tally.rows().filter(({ day }) => (day === PERIOD.last ? 1 : 0) === part),
          PERIOD,
        ),
      );
      const together = merge(kept!, today!);
      const sorted = (rows: object[]) => rows.map((row) => JSON.stringify(row)).sort();
      expect(sorted(together.cards)).toEqual(sorted(whole.cards));
      expect(sorted(together.handOuts)).toEqual(sorted(whole.handOuts));
      expect({ ...together, cards: [], handOuts: [] }).toEqual({ ...whole, cards: [], handOuts: [] });
      expect(together.handOuts.map(({ views }) => views)).toEqual(whole.handOuts.map(({ views }) => views));
    }),
    { numRuns: 200 },
  );
});

const act = (kind: EventKind, minute: number, more: Partial<ResponseEvent> = {}): ResponseEvent => ({
  kind,
  card: 'c',
  handOut: null,
  visitor: 'v',
  line: null,
  at: Date.parse('2026-03-28T10:00:00Z') + minute * 60_000,
  ...more,
});
const totals = (...all: ResponseEvent[]) => summarise(all, PERIOD).totals;

test('a save and the tap on a line count once a visit; without a visitor each counts, since visits cannot be told', () => {
  const [tapL, tapM] = [(at: number) => act('tap', at, { line: 'l' }), (at: number) => act('tap', at, { line: 'm' })];
  expect(totals(act('view', 0), tapL(1), tapL(2), tapM(3), tapM(29))).toMatchObject({ taps: 2, saves: 0 });
  // Thirty minutes after the last act the next one begins anew.
  expect(totals(act('view', 0), tapL(1), tapL(31), act('save', 32), act('save', 61))).toMatchObject({
    taps: 2,
    saves: 1,
  });
  expect(totals(act('view', 0), act('save', 1), act('save', 31))).toMatchObject({ saves: 2 });
  const anybody = (kind: EventKind, at: number) => act(kind, at, { visitor: null, line: 'l' });
  expect(
    totals(anybody('view', 0), anybody('save', 1), anybody('save', 2), anybody('tap', 3), anybody('tap', 4)),
  ).toEqual({
    views: 1,
    visits: 0,
    visitors: 0,
    saves: 2,
    taps: 2,
    replies: 0,
  });
  // A visitor of one card is another's on another card, and of whichever hand-out came first.
  expect(totals(act('view', 0), act('save', 1), act('save', 2, { card: 'k' }))).toMatchObject({ saves: 2 });
});

test('programs are told beside the figures and make no row of their own; a save without a view makes one', () => {
  const only = summarise([act('bot', 0, { handOut: 'x' }), act('bot', 1)], PERIOD);
  expect([only.bots, only.handOuts, only.cards, only.totals]).toEqual([2, [], [], noFigures()]);
  const saved = summarise([act('save', 0, { handOut: 'x' })], PERIOD);
  expect(saved.handOuts).toEqual([{ handOut: 'x', ...noFigures(), saves: 1 }]);
  // A visitor of the card who came by another hand-out first, and of the firm by another card.
  const twice = summarise([act('view', 0, { card: 'k' }), act('view', 1, { handOut: 'x' })], PERIOD);
  expect(twice.cards.map(({ card, visitors }) => [card, visitors])).toEqual([
    ['k', 1],
    ['c', 1],
  ]);
  expect(twice.totals.visitors).toBe(1);
});

test('the most viewed hand-outs and the rest add up to the totals; a part taken away leaves the other', () => {
  const all = summarise(
    ['x', 'y', 'y', 'z', 'z', 'z'].map((handOut, at) => act('view', at, { handOut, visitor: `v${at}` })),
    PERIOD,
  );
  const two = mostViewed(all, 2, 9);
  expect(two.handOuts.map(({ handOut, views }) => [handOut, views])).toEqual([
    ['z', 3],
    ['y', 2],
  ]);
  expect(two.others).toEqual({ count: 7, views: 1, visits: 1, visitors: 1, saves: 0, taps: 0, replies: 0 });
  expect(mostViewed(all, 5, 3)).toEqual({ ...all, others: null });
  expect(mostViewed(all, 3, 3).others).toBeNull();
  expect(less(all.totals, { ...noFigures(), views: 2, taps: 1 })).toEqual({ ...all.totals, views: 4, taps: -1 });
  expect(add(two.handOuts.map(({ views }) => views)) + two.others!.views).toBe(all.totals.views);
  const rows = [{ ...noFigures(), visitors: 1, cardVisitors: 4 } as DayFigures];
  expect(ofCardAlone(rows)).toEqual([{ ...rows[0], visitors: 4 }]);
});

test('zones and days: what the IANA data does not know is none; a list of days has its ends and an end', () => {
  expect(['Europe/London', 'UTC', 'Mars/Olympus', ''].map(isTimeZone)).toEqual([true, true, false, false]);
  expect(daysBetween('2026-02-27', '2026-03-01')).toEqual(['2026-02-27', '2026-02-28', '2026-03-01']);
  expect(daysBetween('2026-03-01', '2026-02-28')).toEqual([]);
  expect(daysBetween('0001-01-01', '9999-12-31')).toHaveLength(3_700);
});

test('what a page elsewhere embeds opens nothing; our own worker stands for a navigation (Fetch Metadata)', () => {
  const userAgent = 'Mozilla/5.0 (Linux; Android 15; Pixel 9) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/131.0.0.0';
  const facts = { method: 'GET', userAgent, purpose: '', range: '' };
  expect(judge({ ...facts, destination: 'document' })).toBe('person');
  expect(judge({ ...facts, destination: 'document', site: 'cross-site' })).toBe('person');
  expect(judge({ ...facts, destination: 'empty', site: 'same-origin' })).toBe('person');
  for (const other of [
    { destination: 'empty', site: 'cross-site' },
    { destination: 'empty' },
    { destination: 'iframe', site: 'same-origin' },
    { destination: 'image' },
    { purpose: 'preview' },
    { method: 'HEAD' },
  ])
    expect([other, judge({ ...facts, ...other })]).toEqual([other, 'none']);
  // A program is one however often it comes, and among however many.
  for (let at = 0; at < 2_100; at += 1) judge({ ...facts, userAgent: `${userAgent} n${at}` });
  expect([judge({ ...facts, userAgent: 'curl/8' }), judge({ ...facts, userAgent: 'curl/8' }), judge(facts)]).toEqual([
    'bot',
    'bot',
    'person',
  ]);
});
