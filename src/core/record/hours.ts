import { err, ok, type Result } from '@/core/errors';
import { closedIn } from '@/core/messages';
import type { Language } from '@/core/language';

/** A time on a wall clock, `HH:MM`; `24:00` ends a day. */
export const TIME = /^([01]\d|2[0-3]):[0-5]\d$|^24:00$/;

/** From and until, `HH:MM` on the wall clock of the zone; a span that ends before it begins goes on over midnight. */
export type Span = { from: string; until: string };

/** A weekly table of hours: seven days from Monday (ISO 8601), each with its spans, in a zone of the IANA data base. */
export type Hours = { days: Span[][]; zone: string };

/** Making a format takes as long as a page, and each page with hours asks for several. Zones and languages are as many as anybody writes. */
const MOST_KEPT = 1_000;
const clocks = new Map<string, Intl.DateTimeFormat>();
const weeks = new Map<Language, string[]>();

/** What tells the wall clock of a zone. Error: a RangeError where the IANA data base knows no such zone. */
function clockOf(zone: string): Intl.DateTimeFormat {
  const known = clocks.get(zone);
  if (known) return known;
  const parts = { weekday: 'short', hour: '2-digit', minute: '2-digit', hourCycle: 'h23' } as const;
  const made = new Intl.DateTimeFormat('en-GB', { timeZone: zone, ...parts });
  if (clocks.size >= MOST_KEPT) clocks.clear();
  clocks.set(zone, made);
  return made;
}

/** Whether the IANA data base knows a zone. */
export function isZone(zone: string): boolean {
  try {
    return zone !== '' && Boolean(clockOf(zone));
  } catch {
    return false;
  }
}

const DAY_WORDS: [RegExp, number][] = [
  [/^(mo|mon|monday|montag)$/, 0],
  [/^(tu|tue|tues|tuesday|di|dienstag)$/, 1],
  [/^(we|wed|wednesday|mi|mittwoch)$/, 2],
  [/^(th|thu|thur|thurs|thursday|do|donnerstag)$/, 3],
  [/^(fr|fri|friday|freitag)$/, 4],
  [/^(sa|sat|saturday|samstag)$/, 5],
  [/^(su|sun|sunday|so|sonntag)$/, 6],
];
const dayOf = (word: string): number | undefined =>
  DAY_WORDS.find(([pattern]) => pattern.test(word.toLowerCase().replace(/\.$/, '')))?.[1];

const clock = (hour: string, minute: string | undefined, half: string | undefined): string | null => {
  let h = Number(hour);
  const m = Number(minute ?? 0);
  if (half && (h < 1 || h > 12)) return null;
  if (half) h = (h % 12) + (half.toLowerCase().startsWith('p') ? 12 : 0);
  if (h > 24 || m > 59 || (h === 24 && m > 0)) return null;
  return `${String(h).padStart(2, '0')}:${String(m).padStart(2, '0')}`;
};

const SPAN =
  /(\d{1,2})(?:[:.](\d\d))?\s*([ap]\.?m\.?)?\s*(?:-|–|—|to|until|bis)\s*(\d{1,2})(?:[:.](\d\d))?\s*([ap]\.?m\.?)?/gi;

/** Spans of one day as typed: "9-12:30, 13:30-17", "9 am to 5 pm"; nothing or "closed" for none. Error: HOURS_UNREADABLE. */
export function readSpans(typed: string): Result<Span[]> {
  const text = typed.trim();
  if (!text || /^(closed|geschlossen|–|-|—)$/i.test(text)) return ok([]);
  const spans: Span[] = [];
  const rest = text.replace(SPAN, (_, fh, fm, fa, uh, um, ua) => {
    const [from, until] = [clock(fh, fm, fa), clock(uh, um, ua)];
    if (from && until && from !== until && from !== '24:00') spans.push({ from, until });
    return from && until ? '' : '?';
  });
  if (spans.length === 0 || spans.length > 6 || /[^\s,;/&]|\?/.test(rest.replace(/\band\b|\bund\b/gi, '')))
    return err({ code: 'HOURS_UNREADABLE' });
  return ok(spans.sort((a, b) => (a.from < b.from ? -1 : 1)));
}

const DAY = DAY_WORDS.map(([pattern]) => pattern.source.slice(2, -2)).join('|');
/** One day or a range of days, as words of their own. */
const DAYS = new RegExp(
  `(?<!\\p{L})(?:(${DAY})\\.?)(?:\\s*(?:-|–|—|to|bis)\\s*(?:(${DAY})\\.?))?(?!\\p{L})\\s*:?`,
  'giu',
);

/** A whole week as typed: "Tue-Sat 8:30-16, Sun 10-12". Error: HOURS_UNREADABLE. */
export function readHours(typed: string, zone: string): Result<Hours> {
  const days: Span[][] = Array.from({ length: 7 }, () => []);
  const found = [...typed.matchAll(DAYS)];
  if (found.length === 0 || typed.slice(0, found[0]!.index).trim()) return err({ code: 'HOURS_UNREADABLE' });
  for (const [at, match] of found.entries()) {
    const text = typed.slice(match.index + match[0].length, found[at + 1]?.index).replace(/[\s,;.]+$/, '');
    const read = readSpans(text);
    if (!read.ok || !text) return err({ code: 'HOURS_UNREADABLE' });
    const first = dayOf(match[1]!)!;
    const last = match[2] ? dayOf(match[2])! : first;
    for (let day = first; ; day = (day + 1) % 7) {
      days[day] = read.value;
      if (day === last) break;
    }
  }
  return ok({ days, zone });
}

/** Names of the seven days from Monday, short, in a language. */
export function dayNames(language: Language): readonly string[] {
  const known = weeks.get(language);
  if (known) return known;
  const format = new Intl.DateTimeFormat(language, { weekday: 'short', timeZone: 'UTC' });
  // The 5th of January 1970 was a Monday.
  const made = Array.from({ length: 7 }, (_, day) => format.format(new Date((4 + day) * 86_400_000)));
  if (weeks.size >= MOST_KEPT) weeks.clear();
  weeks.set(language, made);
  return made;
}

export const shownSpans = (spans: Span[]): string =>
  spans.map(({ from, until }) => `${from.replace(/^0/, '')}–${until.replace(/^0/, '')}`).join(', ');

/** The week on a few lines, days with the same hours together ("Mon–Fri 9:00–17:00"); days without hours are left out. */
export function shownHours({ days }: Pick<Hours, 'days'>, language: Language = 'en'): string {
  const names = dayNames(language);
  const lines: string[] = [];
  for (let first = 0; first < 7;) {
    const spans = shownSpans(days[first]!);
    let last = first;
    while (last < 6 && shownSpans(days[last + 1]!) === spans) last += 1;
    if (spans) lines.push(`${names[first]}${last > first ? `–${names[last]}` : ''} ${spans}`);
    first = last + 1;
  }
  return lines.join('\n') || closedIn(language);
}

/** The wall clock of a zone at an instant: day from Monday, minutes since midnight. */
function wallClock(instant: number, zone: string): { day: number; minute: number } {
  const parts = clockOf(zone).formatToParts(instant);
  const of = (type: string) => parts.find((part) => part.type === type)!.value;
  return { day: dayOf(of('weekday'))!, minute: Number(of('hour')) * 60 + Number(of('minute')) };
}

const minutes = (at: string): number => Number(at.slice(0, 2)) * 60 + Number(at.slice(3));

/**
 * Whether an office is open at an instant (milliseconds, UTC) and the wall-clock time at which that ends or begins; `next` is null
 * where no hours are given. Hours are those of the wall clock, so that on a day of clock change the office opens by its clock.
 */
export function openAt(hours: Hours, instant: number): { open: boolean; next: { day: number; at: string } | null } {
  const { day, minute } = wallClock(instant, hours.zone);
  const yesterday = (day + 6) % 7;
  for (const { from, until } of hours.days[yesterday]!)
    if (minutes(until) <= minutes(from) && minute < minutes(until)) return { open: true, next: { day, at: until } };
  for (const { from, until } of hours.days[day]!) {
    const end = minutes(until) <= minutes(from) ? 24 * 60 + minutes(until) : minutes(until);
    if (minute >= minutes(from) && minute < end)
      return { open: true, next: { day: end > 24 * 60 ? (day + 1) % 7 : day, at: until } };
  }
  for (let ahead = 0; ahead <= 7; ahead += 1) {
    const then = (day + ahead) % 7;
    const span = hours.days[then]!.find(({ from }) => ahead > 0 || minutes(from) > minute);
    if (span) return { open: false, next: { day: then, at: span.from } };
  }
  return { open: false, next: null };
}
