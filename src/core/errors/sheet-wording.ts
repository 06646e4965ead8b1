import { megabytes, type Entry } from './entry';

/** Wording of what can be wrong with a sheet of staff, its pictures and its run. */
export const SHEET_WORDING: {
  [
    C in
      | 'ARCHIVE_UNREADABLE'
      | 'NOT_A_SHEET'
      | 'SHEET_OLD'
      | 'SHEET_UNREADABLE'
      | 'SHEET_EMPTY'
      | 'SHEET_TOO_LARGE'
      | 'NO_HEADINGS'
      | 'TOO_MANY_ROWS'
      | 'NO_KEY_COLUMN'
      | 'RUN_BUSY'
      | 'RUN_ENDED'
      | 'MAPPINGS_FULL'
      | 'TEAMS_FULL'
      | 'OFFICES_FULL'
  ]: Entry<C>;
} = {
  ARCHIVE_UNREADABLE: {
    status: 422,
    say: () =>
      'This archive is damaged or holds no pictures. Pack the folder anew as ZIP, or choose the folder itself.',
  },
  NOT_A_SHEET: {
    status: 422,
    say: () => 'This is not a table. Export the list of staff as XLSX or CSV and drop that.',
  },
  SHEET_OLD: {
    status: 422,
    say: () => 'This is the spreadsheet form of before 2007. Open it and save it as XLSX or CSV.',
  },
  SHEET_UNREADABLE: {
    status: 422,
    say: () =>
      'This table is damaged and cannot be read. Open it in a spreadsheet program, save it anew and try again.',
  },
  SHEET_EMPTY: { status: 422, say: () => 'There are no rows below the headings. Choose another sheet or file.' },
  SHEET_TOO_LARGE: {
    status: 413,
    say: (p) => `Unpacked, this workbook is larger than ${megabytes(p.limitBytes)}. Save only the list of staff.`,
  },
  NO_HEADINGS: { status: 422, say: () => 'There are no headings in this row. Say which row they are in.' },
  TOO_MANY_ROWS: {
    status: 422,
    say: (p) =>
      `The sheet has ${p.found} rows; at most ${p.limit} come in at once. Split it, by department for example.`,
  },
  NO_KEY_COLUMN: {
    status: 422,
    say: () =>
      'Say which column has the staff number, or else the mail address: by it people are known again next time.',
  },
  RUN_BUSY: { status: 409, say: () => 'This run is being worked on just now. Wait until it is done, or stop it.' },
  RUN_ENDED: { status: 409, say: () => 'This run was carried out already; it can be undone, not changed.' },
  MAPPINGS_FULL: { status: 422, say: (p) => `There are ${p.limit} mappings already. Remove one that is not used.` },
  OFFICES_FULL: { status: 422, say: (p) => `There are ${p.limit} offices already. Remove one that is empty.` },
  TEAMS_FULL: { status: 422, say: (p) => `There are ${p.limit} teams already. Remove one that is empty.` },
};
