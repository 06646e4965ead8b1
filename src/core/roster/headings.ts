import { textOf, type Cell } from './cells';
import { FIELDS, HEADINGS, type Field } from './fields';

/** A heading's letters and figures alone, without marks above them, so that "E-Mail-Adresse:" and "e mail adresse" are one. */
const plain = (heading: string): string =>
  heading
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .replace(/ß/g, 'ss')
    .replace(/[ł]/gi, 'l')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]/gu, '');

const KNOWN = new Map<string, Field>(
  FIELDS.flatMap((field) => HEADINGS[field].map((heading) => [plain(heading), field] as const)).reverse(),
);

/** The field that a heading means; null where it is not known. What stands in brackets or after a star may be left out. */
export function fieldOf(heading: string): Field | null {
  const known = KNOWN.get(plain(heading));
  if (known) return known;
  const short = heading.replace(/[([{].*$/u, '').replace(/[*:].*$/u, '');
  return (short !== heading && KNOWN.get(plain(short))) || null;
}

/** Each heading's field, no field twice: the first heading of one has it. A full name gives way to its parts. */
export function guessFields(headings: readonly string[]): (Field | null)[] {
  const fields = headings.map(fieldOf);
  const parts = fields.includes('family') && fields.includes('given');
  return fields.map((field, at) =>
    field && fields.indexOf(field) === at && !(parts && field === 'name') ? field : null,
  );
}

/** Rows above the headings that are looked at: a title, a date, an empty line. */
const LOOKED_AT = 15;

/**
 * The row of the headings, counted from 0: of the first ones that in which most cells are known headings; where none is, the first with at
 * least two cells. -1 where there is no such row.
 */
export function headingRow(rows: readonly (readonly Cell[])[]): number {
  const first = rows.slice(0, LOOKED_AT);
  const known = first.map((row) => row.filter((cell) => typeof cell === 'string' && fieldOf(cell)).length);
  const most = Math.max(0, ...known);
  return most > 0
    ? known.indexOf(most)
    : first.findIndex((row) => row.filter((cell) => textOf(cell) !== '').length > 1);
}
