/** An instant (ISO 8601) as date and time of a stated zone, the same on server and screen. */
export const instantIn = (timeZone: string, instant: string): string =>
  new Intl.DateTimeFormat('en-GB', {
    timeZone,
    day: '2-digit',
    month: 'short',
    year: 'numeric',
    hour: '2-digit',
    minute: '2-digit',
  }).format(new Date(instant));

// Making a format takes longer than drawing the row it stands in.
const shortDays = new Map<string, Intl.DateTimeFormat>();

/** An instant (ISO 8601) as a short day of a stated zone, for long lists. */
export function shortDayIn(timeZone: string, instant: string): string {
  const known =
    shortDays.get(timeZone) ?? new Intl.DateTimeFormat('en-GB', { timeZone, day: 'numeric', month: 'short' });
  shortDays.set(timeZone, known);
  return known.format(new Date(instant));
}

/** An instant (milliseconds, UTC) as the time of a stated zone. */
export const timeIn = (timeZone: string, at: number): string =>
  new Intl.DateTimeFormat('en-GB', { timeZone, hour: '2-digit', minute: '2-digit' }).format(new Date(at));

/** An instant (milliseconds, UTC) as a day of a stated zone. */
export const dayIn = (timeZone: string, at: number): string =>
  new Intl.DateTimeFormat('en-GB', { timeZone, day: 'numeric', month: 'long', year: 'numeric' }).format(new Date(at));
