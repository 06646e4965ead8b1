import fc from 'fast-check';
import {
  addDays,
  dayOf,
  instantAt,
  judge,
  startOfDay,
  summarise,
  wallTime,
  type EventKind,
  type ResponseEvent,
} from './index';

const at = (instant: string) => Date.parse(instant);
const event = (
  kind: EventKind,
  instant: string,
  visitor: string | null = 'v',
  handOut: string | null = null,
  card = 'c',
): ResponseEvent => ({ kind, card, handOut, visitor, at: at(instant) });
const march = { first: '2026-03-28', last: '2026-03-30', timeZone: 'Europe/London' };

describe('days', () => {
  // The clocks of Europe/London went forward on 29 March 2026 and back on 25 October 2026 (IANA time-zone data).
  test('a day of 23 and one of 25 hours', () => {
    expect(startOfDay('2026-03-30', 'Europe/London') - startOfDay('2026-03-29', 'Europe/London')).toBe(23 * 3_600_000);
    expect(startOfDay('2026-10-26', 'Europe/London') - startOfDay('2026-10-25', 'Europe/London')).toBe(25 * 3_600_000);
    expect(new Date(startOfDay('2026-07-01', 'Asia/Kathmandu')).toISOString()).toBe('2026-06-30T18:15:00.000Z');
    // The zones farthest ahead of UTC and behind it.
    expect(new Date(startOfDay('2026-07-01', 'Pacific/Tongatapu')).toISOString()).toBe('2026-06-30T11:00:00.000Z');
    expect(new Date(startOfDay('2026-07-01', 'Pacific/Kiritimati')).toISOString()).toBe('2026-06-30T10:00:00.000Z');
    expect(new Date(startOfDay('2026-07-01', 'Pacific/Pago_Pago')).toISOString()).toBe('2026-07-01T11:00:00.000Z');
  });

  test('midnight that a change of the clock skips (America/Santiago, 6 September 2026)', () => {
    const start = startOfDay('2026-09-06', 'America/Santiago');
    expect(dayOf(start, 'America/Santiago')).toBe('2026-09-06');
    expect(dayOf(start - 1, 'America/Santiago')).toBe('2026-09-05');
  });

  test('days are added across months and years', () => {
    expect(addDays('2026-12-31', 1)).toBe('2027-01-01');
    expect(addDays('2028-03-01', -1)).toBe('2028-02-29');
  });
});

describe('figures, by the definitions of the product', () => {
  test('views less than 30 minutes apart are one visit; a gap of 30 minutes begins another', () => {
    const events = ['10:00', '10:29', '10:58', '11:28'].map((time) => event('view', `2026-03-28T${time}:00Z`));
    expect(summarise(events, march).totals).toMatchObject({ views: 4, visits: 2, visitors: 1 });
  });

  test('a save and its repeats in one visit count once', () => {
    const events = [
      event('view', '2026-03-28T10:00:00Z'),
      event('save', '2026-03-28T10:01:00Z'),
      event('save', '2026-03-28T10:02:00Z'),
      event('save', '2026-03-28T12:00:00Z'),
    ];
    expect(summarise(events, march).totals.saves).toBe(2);
  });

  test('a visit is its views: a save or a tap between two that lie 30 minutes apart joins them not, and each visit has its own', () => {
    const acts = (...list: [EventKind, string][]) => list.map(([kind, time]) => event(kind, `2026-03-28T${time}:00Z`));
    const across = acts(
      ['view', '10:00'],
      ['save', '10:20'],
      ['tap', '10:25'],
      ['view', '10:30'],
      ['save', '10:31'],
      ['tap', '10:32'],
    );
    expect(summarise(across, march).totals).toEqual({
      views: 2,
      visits: 2,
      visitors: 1,
      saves: 2,
      taps: 2,
      replies: 0,
    });
    const within = acts(
      ['view', '10:00'],
      ['save', '10:20'],
      ['tap', '10:25'],
      ['view', '10:29'],
      ['save', '10:31'],
      ['tap', '10:32'],
    );
    const before = acts(['save', '10:00'], ['view', '10:01'], ['save', '10:02']);
    expect(summarise(before, march).totals).toMatchObject({ views: 1, visits: 1, saves: 1 });
    expect(summarise(within, march).totals).toEqual({
      views: 2,
      visits: 1,
      visitors: 1,
      saves: 1,
      taps: 1,
      replies: 0,
    });
  });

  test('with Global Privacy Control the view counts and visits cannot be told', () => {
    const summary = summarise([event('view', '2026-03-28T10:00:00Z', null)], march);
    expect(summary.totals).toMatchObject({ views: 1, visits: 0, visitors: 0 });
    expect(summary.viewsWithoutVisitor).toBe(1);
  });

  test('every breakdown adds up to the totals, and visitors never exceed visits', () => {
    let seed = 7;
    const random = () => (seed = (seed * 48_271) % 2_147_483_647) / 2_147_483_647;
    const pick = <T>(list: T[]) => list[Math.floor(random() * list.length)]!;
    const events = Array.from({ length: 3_000 }, () =>
      event(
        pick<EventKind>(['view', 'view', 'save', 'tap', 'bot']),
        new Date(at('2026-03-27T20:00:00Z') + random() * 80 * 3_600_000).toISOString(),
        pick(['a', 'b', 'c', 'd', null]),
        pick([null, 'x', 'y']),
        pick(['c', 'k']),
      ),
    );
    const summary = summarise(events, march);
    for (const key of ['views', 'visits', 'visitors', 'saves', 'taps'] as const) {
      const sum = (rows: { [k in typeof key]: number }[]) => rows.reduce((total, row) => total + row[key], 0);
      expect(sum(summary.days)).toBe(summary.totals[key]);
      expect(sum(summary.handOuts)).toBe(summary.totals[key]);
      if (key !== 'visitors') expect(sum(summary.cards)).toBe(summary.totals[key]);
    }
    expect(summary.totals.visitors).toBeLessThanOrEqual(summary.totals.visits);
    expect(summary.totals.views).toBeGreaterThan(0);
  });
});

describe('who counts', () => {
  const phone =
    'Mozilla/5.0 (Linux; Android 15; Pixel 9) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/131.0.0.0 Mobile Safari/537.36';
  const facts = { method: 'GET', userAgent: phone, purpose: '', range: '' };
  test.each([
    [facts, 'person'],
    [{ ...facts, method: 'HEAD' }, 'none'],
    [{ ...facts, purpose: 'prefetch;prerender' }, 'none'],
    [{ ...facts, range: 'bytes=500-' }, 'none'],
    [{ ...facts, range: 'bytes=0-' }, 'person'],
    [{ ...facts, userAgent: 'curl/8.5.0' }, 'bot'],
    [{ ...facts, userAgent: '' }, 'bot'],
    // The form that crawlers are asked to use: a name, a version and an address (RFC 9309 2.2.1, common practice).
    [{ ...facts, userAgent: 'Mozilla/5.0 (compatible; SomeBot/2.1; +https://some.example/bot.html)' }, 'bot'],
  ] as const)('%j is %s', (request, verdict) => {
    expect(judge(request)).toBe(verdict);
  });
});

// The changes of 2026 in London (clocks forward on 29 March at 01:00 UTC, back on 25 October at 01:00 UTC: IANA time-zone data) and a zone without any.
test('a time typed for a zone is the instant at which a clock on its wall shows it, also when clocks are changed', () => {
  const at = (wall: string, zone = 'Europe/London') => new Date(instantAt(wall, zone)).toISOString();
  expect(at('2026-07-01T09:00')).toBe('2026-07-01T08:00:00.000Z');
  expect(at('2026-11-27T09:00')).toBe('2026-11-27T09:00:00.000Z');
  expect(at('2026-11-27T09:00', 'Asia/Kathmandu')).toBe('2026-11-27T03:15:00.000Z');
  // 01:30 comes twice in October, and never in March.
  expect(at('2026-10-25T01:30')).toBe('2026-10-25T00:30:00.000Z');
  expect(at('2026-03-29T01:30')).toBe('2026-03-29T01:30:00.000Z');
  const instants = fc.integer({ min: Date.UTC(2020, 0, 1), max: Date.UTC(2036, 0, 1) });
  const zones = fc.constantFrom('Europe/London', 'America/St_Johns', 'Pacific/Apia', 'Australia/Lord_Howe', 'UTC');
  fc.assert(
    fc.property(instants, zones, (instant, zone) => {
      const wall = wallTime(instant, zone);
      expect(wallTime(instantAt(wall, zone), zone)).toBe(wall);
    }),
  );
});
