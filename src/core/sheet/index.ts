/** What a spreadsheet takes for the beginning of a formula (common practice, no published source). */
const FORMULA = /^[=+\-@\t\r]/;

/** A text for a cell that no program reads as a formula: it is led by an apostrophe, which spreadsheets hide. */
export const asText = (text: string): string => (FORMULA.test(text) ? `'${text}` : text);

/** Rows as a table of comma-separated values (RFC 4180), each quoted; nothing in it is a formula. */
export const csvOf = (rows: string[][]): string =>
  rows.map((row) => `${row.map((text) => `"${asText(text).replaceAll('"', '""')}"`).join(',')}\r\n`).join('');
