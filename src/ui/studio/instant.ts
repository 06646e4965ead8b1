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

/** An instant (milliseconds, UTC) as a day of a stated zone. */
export const dayIn = (timeZone: string, at: number): string =>
  new Intl.DateTimeFormat('en-GB', { timeZone, day: 'numeric', month: 'long', year: 'numeric' }).format(new Date(at));
