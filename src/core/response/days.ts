const formatters = new Map<string, Intl.DateTimeFormat>();

function formatterFor(timeZone: string): Intl.DateTimeFormat {
  const known = formatters.get(timeZone);
  if (known) return known;
  const made = new Intl.DateTimeFormat('en-CA', { timeZone, year: 'numeric', month: '2-digit', day: '2-digit' });
  formatters.set(timeZone, made);
  return made;
}

/** Whether the IANA time-zone data knows this zone. */
export function isTimeZone(timeZone: string): boolean {
  try {
    return Boolean(formatterFor(timeZone));
  } catch {
    return false;
  }
}

/** The local date, `2026-03-29`, of an instant (milliseconds since 1970, UTC) in an IANA time zone. */
export const dayOf = (instant: number, timeZone: string): string => formatterFor(timeZone).format(instant);

/** The date `count` days after `day`; negative counts go back. */
export function addDays(day: string, count: number): string {
  const date = new Date(`${day}T12:00:00Z`);
  date.setUTCDate(date.getUTCDate() + count);
  return date.toISOString().slice(0, 10);
}

/** The instant (milliseconds) at which a local day begins, also where midnight is skipped by a change of the clock. */
export function startOfDay(day: string, timeZone: string): number {
  const noon = Date.parse(`${day}T12:00:00Z`);
  let before = noon - 36 * 3_600_000;
  let after = noon + 24 * 3_600_000;
  while (after - before > 1) {
    const middle = Math.floor((before + after) / 2);
    if (dayOf(middle, timeZone) < day) before = middle;
    else after = middle;
  }
  return after;
}

/** All dates from `first` to `last`, both included. */
export function daysBetween(first: string, last: string): string[] {
  const days: string[] = [];
  for (let day = first; day <= last && days.length < 3_700; day = addDays(day, 1)) days.push(day);
  return days;
}

/** Wall clock times of a zone as a form's field has them (HTML, local date and time strings: `2026-11-27T09:00`). */
const clocks = new Map<string, Intl.DateTimeFormat>();
function clockOf(timeZone: string): Intl.DateTimeFormat {
  const known = clocks.get(timeZone);
  if (known) return known;
  const digits = { year: 'numeric', month: '2-digit', day: '2-digit', hour: '2-digit', minute: '2-digit' } as const;
  const made = new Intl.DateTimeFormat('sv-SE', { timeZone, ...digits });
  clocks.set(timeZone, made);
  return made;
}

/** What a clock on the wall of a zone shows at an instant (milliseconds, UTC), to the minute. */
export const wallTime = (instant: number, timeZone: string): string =>
  clockOf(timeZone).format(instant).replace(' ', 'T');

/**
 * The instant (milliseconds, UTC) at which a clock on the wall of a zone shows a time: the first of two where clocks are put back, and
 * where they are put forward over it the moment that lies as far behind the change.
 */
export function instantAt(wall: string, timeZone: string): number {
  const asUtc = Date.parse(`${wall}Z`);
  const ahead = (instant: number) => Date.parse(`${wallTime(instant, timeZone)}Z`) - instant;
  const tried = [asUtc - 86_400_000, asUtc + 86_400_000].map((near) => asUtc - ahead(near));
  const shown = tried.filter((instant) => wallTime(instant, timeZone) === wall);
  return shown.length > 0 ? Math.min(...shown) : Math.max(...tried);
}
