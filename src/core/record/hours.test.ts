import { openAt, readHours, readSpans, shownHours } from './hours';

const week = (typed: string, zone = 'Europe/London') => {
  const read = readHours(typed, zone);
  if (!read.ok) throw new Error(`${typed} is not read`);
  return read.value;
};
const at = (instant: string) => Date.parse(instant);

test.each([
  ['Mon-Fri 9-17', 'Mon–Fri 9:00–17:00'],
  ['Mon-Fri 7-16, Sat 8-12, Sun closed', 'Mon–Fri 7:00–16:00\nSat 8:00–12:00'],
  ['Mo–Fr 9–12:30, 13.30–17; Sa 10-12', 'Mon–Fri 9:00–12:30, 13:30–17:00\nSat 10:00–12:00'],
  ['Monday to Friday 9am to 5:30 pm', 'Mon–Fri 9:00–17:30'],
  ['Sat-Mon 22:00-02:00', 'Mon 22:00–2:00\nSat–Sun 22:00–2:00'],
])('hours as people write them: %s', (typed, shown) => {
  expect(shownHours(week(typed))).toBe(shown);
});

test.each(['', 'whenever', 'Mon-Fri', 'Mon 25-26', 'Mon 9-17 or so', '9-17'])('“%s” is no week', (typed) => {
  expect(readHours(typed, 'UTC').ok).toBe(false);
});
test('a day is closed or has spans; a span of no length is none', () => {
  expect(readSpans('closed')).toEqual({ ok: true, value: [] });
  expect(readSpans('9-9').ok).toBe(false);
});

/**
 * Days of clock change by the IANA data base: in Europe/London 2026-03-29 01:00 UTC and 2026-10-25 01:00 UTC, in America/New_York
 * 2026-03-08 07:00 UTC (tz database, `europe` and `northamerica`). An office opens by its own clock on the wall.
 */
test.each([
  ['Europe/London', '2026-03-28T08:59:00Z', false], // winter time: nine on the wall is nine UTC
  ['Europe/London', '2026-03-28T09:00:00Z', true],
  ['Europe/London', '2026-03-29T07:59:00Z', false], // summer time since one o'clock: nine on the wall is eight UTC
  ['Europe/London', '2026-03-29T08:00:00Z', true],
  ['Europe/London', '2026-10-25T08:30:00Z', false], // winter time again
  ['Europe/London', '2026-10-25T09:00:00Z', true],
  ['America/New_York', '2026-03-07T14:00:00Z', true],
  ['America/New_York', '2026-03-08T13:00:00Z', true],
  ['America/New_York', '2026-03-08T12:59:00Z', false],
  ['Asia/Kathmandu', '2026-05-05T03:15:00Z', true], // 5:45 ahead of UTC
])('%s at %s is open: %s', (zone, instant, open) => {
  expect(openAt(week('Mon-Sun 9-17', zone), at(instant)).open).toBe(open);
});

test('a night over the change of clocks ends by the clock on the wall', () => {
  const bar = week('Sat 22-04');
  // Saturday 28 March 2026, 23:30 in London; four o'clock on Sunday is three UTC.
  expect(openAt(bar, at('2026-03-28T23:30:00Z'))).toEqual({ open: true, next: { day: 6, at: '04:00' } });
  expect(openAt(bar, at('2026-03-29T02:59:00Z')).open).toBe(true);
  expect(openAt(bar, at('2026-03-29T03:00:00Z')).open).toBe(false);
});

test('a night over the end of the week', () => {
  const bar = week('Sun 22-04');
  expect(openAt(bar, at('2026-11-29T23:30:00Z'))).toEqual({ open: true, next: { day: 0, at: '04:00' } });
  expect(openAt(bar, at('2026-11-30T03:59:00Z'))).toEqual({ open: true, next: { day: 0, at: '04:00' } });
  expect(openAt(bar, at('2026-11-30T04:00:00Z'))).toEqual({ open: false, next: { day: 6, at: '22:00' } });
});

test('when it opens next is told, over a weekend too; no hours never open', () => {
  expect(openAt(week('Mon-Fri 9-17'), at('2026-11-27T18:00:00Z'))).toEqual({
    open: false,
    next: { day: 0, at: '09:00' },
  });
  const never = { days: Array.from({ length: 7 }, () => []), zone: 'UTC' };
  expect(openAt(never, 0)).toEqual({ open: false, next: null });
});
