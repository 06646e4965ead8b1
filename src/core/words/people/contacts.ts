import type { Verdict } from '@/core/imports';
import type { Warning } from '@/core/vcard';
import { figure, plural } from '@/core/language';

const contacts = (count: number) => plural(count, { one: '# contact', other: '# contacts' });

/** What a reader says of a line that it could not understand. */
export const WARNING_WORDS: Record<Warning['code'], string> = {
  LINE_UNREADABLE: 'this is no line of a contact; it is kept as it stands',
  BADLY_FOLDED: 'a line is broken in the middle; it was put together again',
  BASE64_INVALID: 'the bytes here are damaged',
  CHARSET_UNKNOWN: 'its letters are in a code that is not known; read as UTF-8',
  CONTROL_CHARACTERS: 'control characters were taken out',
  VERSION_UNKNOWN: 'the contact does not say its version; read as 3.0',
  NESTED_CARD: 'a contact within a contact; both were read',
  END_MISSING: 'the contact breaks off here; what came before was read',
  END_WITHOUT_BEGIN: 'an end without a beginning',
  OUTSIDE_A_CARD: 'what stands here belongs to no contact',
  CARD_EMPTY: 'a contact with nothing in it',
  TOO_MANY_PROPERTIES: 'more properties than a contact may have; the rest was left out',
  JSON_UNREADABLE: 'this is no jCard: its JSON cannot be read',
};

/** Taking contacts in: the review, what came of it, undoing it. */
export const IMPORT = {
  page: 'Contacts to import',
  title: (file: string) => `Contacts of ${file}`,
  reading: 'The file is being read. You may leave this page; the work goes on.',
  taking: 'The chosen contacts are being imported. You may leave this page; the work goes on.',
  undoing: 'The import is being undone.',
  failed: 'The file could not be read to its end, so nothing was imported. Drop it again on People, or another export.',
  finding: (found: number, fresh: number, differing: number, same: number) =>
    `${contacts(found)}: ${[
      fresh > 0 ? `${figure(fresh)} new` : '',
      differing > 0 ? `${figure(differing)} known and different` : '',
      same > 0 ? `${figure(same)} with nothing new` : '',
    ]
      .filter(Boolean)
      .join(', ')}.`,
  verdict: { new: 'New', differs: 'Differ', same: 'Nothing new', twice: 'Twice in the file' } satisfies Record<
    Verdict,
    string
  >,
  mark: { new: '+', differs: '≠', same: '=', twice: '2×' } satisfies Record<Verdict, string>,
  all: 'All',
  show: 'Show',
  tickAll: 'Tick all',
  untickAll: 'Untick all',
  take: (count: number) => `Import ${contacts(count)}`,
  column: { take: 'Import', contact: 'Contact', verdict: 'Status', lines: 'What is imported' },
  takeOf: (name: string) => `Import ${name}`,
  noName: 'no name',
  becomesRecord: 'becomes a record and a first card, unpublished',
  nothing: 'nothing: the record says all of it already',
  twiceNote: 'the same contact appears earlier in the file',
  photoComes: 'a photo',
  keptComes: (count: string) =>
    `${count === '1' ? '1 more property' : `${count} more properties`}, kept in the record and never published`,
  replaces: 'replaces',
  withKept: (names: string[]) =>
    `Not understood, kept: ${names.slice(0, 5).join(', ')}${names.length > 5 ? ` and ${names.length - 5} more` : ''}.`,
  tooLarge: (names: string[]) => `Too large to keep: ${names.join(', ')}.`,
  atLine: (line: number, text: string) => `Line ${line}: ${text}.`,
  outside: 'Between the contacts',
  next: 'The next hundred',
  previous: 'From the start',
  done: (made: number, changed: number) =>
    `${
      [
        made > 0 ? `${contacts(made)} imported` : '',
        changed > 0 ? `${figure(changed)} ${changed === 1 ? 'record was' : 'records were'} changed` : '',
      ]
        .filter(Boolean)
        .join(', ') || 'Nothing was imported'
    }.`,
  undone: (undone: number, left: number) =>
    `${contacts(undone)} undone.${left > 0 ? ` ${figure(left)} stayed, since somebody has changed or published them since.` : ''}`,
  undo: 'Undo the import',
  undoNote: 'Imported records are removed, changed ones restored. What somebody has worked on since stays.',
  cameIn: 'imported',
  changed: 'changed',
  takenBack: 'undone',
  leftOut: 'left out',
};

/** Giving contacts out, for one’s own address book. */
export const EXPORT = {
  chosen: (count: number) => plural(count, { one: '# person chosen', other: '# people chosen' }),
  choose: (name: string) => `Choose ${name}`,
  chooseAll: (count: number) => `Choose all ${figure(count)}`,
  clear: 'Choose nobody',
  note: 'An export is whole records, also what no card shows: for your own address books.',
  version: 'Version',
  one: 'Export as one .vcf',
  zip: 'Export as ZIP',
  record: 'Export',
  recordNote: 'The whole record as a contact file, also what no card shows: for your own address book',
  card: 'Download',
};
