import { kindOf, textOf, type Cell } from './cells';

/** Which of day and month comes first where a date is written with figures alone. */
export type DateOrder = 'day first' | 'month first';

/** Countries that write the month first (CLDR 45, short date patterns that begin with M; from memory). */
const MONTH_FIRST = new Set(['US', 'PH', 'PW', 'FM', 'MH', 'BZ']);

/** The order of a column of dates: what its values leave open, the country decides. */
export function dateOrderOf(cells: readonly Cell[], country: string): DateOrder {
  for (const cell of cells) {
    const [, first, second] = /^(\d{1,2})[./-](\d{1,2})[./-]\d{2,4}$/.exec(textOf(cell).trim()) ?? [];
    if (first && Number(first) > 12) return 'day first';
    if (second && Number(second) > 12) return 'month first';
  }
  return MONTH_FIRST.has(country) ? 'month first' : 'day first';
}

/** Days from 1899-12-30, which spreadsheets count from (ECMA-376-1 18.17.4.1, 1900 date system), to a day of about now. */
const SERIAL = { least: 18_264, most: 73_050 };

const iso = (year: number, month: number, day: number): string | null => {
  const at = new Date(Date.UTC(year, month - 1, day));
  return at.getUTCMonth() === month - 1 && at.getUTCDate() === day ? at.toISOString().slice(0, 10) : null;
};

/** A year of four figures, or of two as POSIX.1-2017 reads them (strptime, %y): 69 to 99 of the last century. */
const yearOf = (figures: string): number =>
  Number(figures) + (figures.length > 2 ? 0 : Number(figures) < 69 ? 2_000 : 1_900);

/**
 * A day as ISO 8601 from what a sheet has for it: ISO, figures in one of both orders, or a spreadsheet's day number, which `counted` tells;
 * null where it is none.
 */
export function readDay(cell: Cell, order: DateOrder): { day: string; counted: boolean } | null {
  const text = textOf(cell).trim();
  const found = (day: string | null, counted = false) => (day ? { day, counted } : null);
  const [, year, month, date] = /^(\d{4})[-/.](\d{1,2})[-/.](\d{1,2})(?:[T ].*)?$/.exec(text) ?? [];
  if (year) return found(iso(Number(year), Number(month), Number(date)));
  const [, first, second, last] = /^(\d{1,2})[./-] ?(\d{1,2})[./-] ?(\d{4}|\d{2})$/.exec(text) ?? [];
  if (last) {
    const [day, of] = order === 'day first' ? [first, second] : [second, first];
    return found(iso(yearOf(last), Number(of), Number(day)));
  }
  if (/^\d{5}(\.0+)?$/.test(text) && kindOf(cell) !== 'date') {
    const serial = Math.trunc(Number(text));
    if (serial >= SERIAL.least && serial <= SERIAL.most)
      return found(new Date(Date.UTC(1899, 11, 30 + serial)).toISOString().slice(0, 10), true);
  }
  return null;
}
