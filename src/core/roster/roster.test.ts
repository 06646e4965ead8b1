import fc from 'fast-check';
import { privacyOf } from '@/core/card';
import { lineTypeOf } from '@/core/record/line-type';
import { RecordSchema, shownValue, writtenName, type PersonRecord } from '@/core/record';
import { ROSTER } from '@/core/words';
import { anyCard, anyRecord } from '../../../tests/fixtures/any-card';
import {
  applyRow,
  changesBy,
  dateOrderOf,
  fieldOf,
  FIELDS,
  guessFields,
  headingRow,
  HEADINGS,
  linesLike,
  matchPictures,
  readDay,
  readRow,
  slotIds,
  staffKey,
  type Cells,
  type Known,
} from './index';

test('every heading that we write ourselves is known again, and none is known as two things', () => {
  for (const field of FIELDS) {
    expect([field, fieldOf(`${ROSTER.fields[field]} (${ROSTER.sheet.needed})`)]).toEqual([field, field]);
    for (const heading of HEADINGS[field]) expect([heading, fieldOf(heading)]).toEqual([heading, field]);
    expect(HEADINGS[field].map((heading) => fieldOf(`  ${heading.toUpperCase()}: `))).not.toContain(null);
  }
});

test('what may be private in an export is read as private, or not at all (common practice, no published source)', () => {
  const headings = [
    'Mobile',
    'Handy',
    'Portable',
    'Straße',
    'Street',
    'Address',
    'Home address',
    'Gehalt',
    'Salary',
    'Date of birth',
  ];
  expect(headings.map(fieldOf)).toEqual(['own mobile', 'own mobile', 'own mobile', ...Array<null>(7).fill(null)]);
  const { details } = readRow(
    { 'own mobile': '07700 900182', family: 'Varrow', email: 'i@tarnhope.example' },
    { country: 'GB', order: 'day first' },
  );
  const record: PersonRecord = RecordSchema.parse({ name: { family: 'Varrow' }, details: Object.values(details) });
  const own = record.details.find(({ kind }) => kind === 'phone')!;
  expect(privacyOf(own, record, lineTypeOf)).not.toBeNull();
});

test('headings are found below a title and a date; a full name gives way to its parts', () => {
  const rows = [
    ['Personalliste', ''],
    ['Stand 01.11.2026', ''],
    ['', ''],
    ['Nachname', 'Vorname', 'Name', 'E-Mail'],
    ['Ros', 'Keld', '', ''],
  ];
  expect(headingRow(rows)).toBe(3);
  expect(guessFields(rows[3]!)).toEqual(['family', 'given', null, 'email']);
});

const anyDay = fc.date({ min: new Date('1960-01-01'), max: new Date('2090-12-31'), noInvalidDate: true });

test('a day is read however a country writes it (property; dates as Intl writes them, CLDR)', () => {
  fc.assert(
    fc.property(anyDay, fc.constantFrom('de-DE', 'en-GB', 'fr-FR', 'sv-SE', 'nl-NL', 'en-US'), (at, locale) => {
      const day = at.toISOString().slice(0, 10);
      const written = new Intl.DateTimeFormat(locale, {
        timeZone: 'UTC',
        year: 'numeric',
        month: '2-digit',
        day: '2-digit',
      }).format(at);
      const order = locale === 'en-US' ? ('month first' as const) : ('day first' as const);
      expect([written, readDay(written, order)]).toEqual([written, { day, counted: false }]);
      // A day beyond the twelfth tells the order by itself.
      if (at.getUTCDate() > 12 && !/^\d{4}/.test(written)) expect(dateOrderOf([written], 'GB')).toBe(order);
    }),
  );
});

test('a year of two figures is that of whoever works now (POSIX.1-2017, strptime %y); a day that there is not is none', () => {
  const read = (text: string) => readDay(text, 'day first')?.day ?? null;
  expect(
    ['01.09.98', '1/9/69', '01-09-68', '31.12.26', '29.02.24', '29.02.23', '31.04.2026', '0.1.2026'].map(read),
  ).toEqual([...['1998-09-01', '1969-09-01', '2068-09-01', '2026-12-31', '2024-02-29'], ...[null, null, null]]);
  // Day numbers of a spreadsheet: 46 000 is the 9th of December 2025 (ECMA-376-1 18.17.4.1, counted from 1899-12-30).
  expect([readDay({ text: '46000', was: 'number' }, 'day first'), readDay('46000.5', 'day first')]).toEqual([
    { day: '2025-12-09', counted: true },
    null,
  ]);
});

const word = fc.constantFrom(
  'Uta',
  'Keld',
  'Ilse',
  'Varrow',
  'Ros',
  'Brandt',
  'Weiß',
  'Łuczak',
  'O’Neill',
  'van der Vael',
);
const anyCells: fc.Arbitrary<Cells> = fc.record(
  {
    'staff number': fc.integer({ min: 1, max: 9_999 }).map((each) => String(each).padStart(4, '0')),
    given: word,
    family: word,
    title: fc.constantFrom('Rope inspector', 'Ärztin', 'Head of "ropes"; deputy'),
    department: fc.constantFrom('Ropes', 'Rescue'),
    phone: fc.integer({ min: 0, max: 999 }).map((each) => `020 7946 0${String(each).padStart(3, '0')}`),
    'own mobile': fc.integer({ min: 0, max: 999 }).map((each) => `07700 900${String(each).padStart(3, '0')}`),
    email: fc.integer({ min: 0, max: 999 }).map((each) => `staff.${each}@tarnhope.example`),
    link: fc.constantFrom('tarnhope.example', 'https://tarnhope.example/ropes'),
    languages: fc.constantFrom('English', 'German, English'),
  },
  { requiredKeys: ['staff number', 'given', 'family'] },
);
const said = ({ details }: PersonRecord) => details.map((detail) => shownValue(detail));
const how = { country: 'GB', order: 'day first' } as const;
const knownOf = (record: PersonRecord, written: Known['written'], number: string | null): Known => ({
  ...{ record, written, staffNumber: number, joins: null, leaves: null, teams: [], office: null },
});

test('the same sheet again changes nothing, whoever it meets; the next one changes only what it says otherwise (property)', () => {
  fc.assert(
    fc.property(anyRecord, anyCells, anyCells, fc.boolean(), (before, one, other, isNew) => {
      const first = readRow(one, how);
      const { record, written } = applyRow(first, isNew ? null : before, {});
      expect(RecordSchema.safeParse(record).success).toBe(true);
      const known = knownOf(record, written, first.staffNumber);
      expect(changesBy(first, known, {})).toEqual({ changes: [], kept: [] });
      expect(applyRow(first, record, { written }).record).toEqual(record);
      const second = readRow({ ...one, ...other }, how);
      const { changes } = changesBy(second, known, { title: 'Sheet' });
      const next = applyRow(second, record, { written });
      expect(changesBy(second, knownOf(next.record, next.written, second.staffNumber), {}).changes).toEqual([]);
      // What is not told as a change is as it was.
      const told = new Set(changes.map(({ of }) => of));
      if (told.size === 0) expect(said(next.record)).toEqual(said(record));
      if (!told.has('name')) expect(writtenName(next.record.name)).toBe(writtenName(record.name));
      // Nothing that was there before goes away.
      expect(next.record.details.length).toBeGreaterThanOrEqual(record.details.length);
    }),
  );
});

test('what its holder changed since the last sheet stays, unless it is the organisation’s (property)', () => {
  fc.assert(
    fc.property(anyCells, anyCells, (one, other) => {
      const first = readRow({ title: 'Rope inspector', ...one }, how);
      const { record, written } = applyRow(first, null, {});
      const theirs = {
        ...record,
        details: record.details.map((each) => (each.kind === 'title' ? { ...each, text: 'Theirs' } : each)),
      };
      const second = readRow({ ...one, ...other, title: 'Of the sheet' }, how);
      const known = knownOf(theirs, written, first.staffNumber);
      const free = changesBy(second, known, {});
      expect([free.kept, free.changes.some(({ of }) => of === 'title')]).toEqual([['title'], false]);
      expect(applyRow(second, theirs, { written, without: free.kept }).record.details).toContainEqual(
        expect.objectContaining({ text: 'Theirs' }),
      );
      const owned = changesBy(second, known, { title: 'Sheet' });
      expect([owned.kept, owned.changes.find(({ of }) => of === 'title')?.is]).toEqual([[], 'Of the sheet']);
    }),
  );
});

test('a card like the pattern shows what the pattern shows, and nothing private or of the pattern’s own person (property)', () => {
  fc.assert(
    fc.property(anyCard, anyCells, fc.boolean(), ({ record: model, draft }, cells, privateToo) => {
      const pattern = { ...draft, record: model };
      const { record } = applyRow(readRow(cells, how), null, { ids: slotIds(pattern) });
      const isPrivate = (detail: PersonRecord['details'][number]) => privacyOf(detail, record, lineTypeOf) !== null;
      const uses = ['mobile' as const];
      const own = { kind: 'phone' as const, id: 'mine', label: '', preferred: false, number: '+447700900111', uses };
      pattern.lines = [...pattern.lines, { ...pattern.lines[0]!, detail: 'mine', own }];
      const lines = linesLike(pattern, record, isPrivate, privateToo);
      expect(new Set(lines.map(({ detail }) => detail)).size).toBe(lines.length);
      for (const line of lines) {
        expect(line.wording).toBeNull();
        const detail = record.details.find(({ id }) => id === line.detail);
        const out = Object.values(line.ticks).some(Boolean);
        if (detail && isPrivate(detail) && !privateToo) expect(out).toBe(false);
        if (detail && out) expect(line.ticks).toEqual(draft.lines.find((each) => each.detail === line.detail)!.ticks);
      }
      const theirs = lines.find(({ detail }) => detail === 'mine')!;
      expect(Object.values(theirs.ticks).some(Boolean)).toBe(privateToo);
      for (const { id } of record.details) expect(lines.some(({ detail }) => detail === id)).toBe(true);
    }),
  );
});

test('each picture is one person’s: by the sheet’s file name, number, mail, name in any order; what two could claim is nobody’s', () => {
  const row = (at: number, name: string, more: object = {}) => ({
    at,
    name,
    picture: null,
    staffNumber: null,
    mail: null,
    ...more,
  });
  const rows = [
    row(2, 'Ilse Weiß', { picture: 'IMG_1.JPG' }),
    row(3, 'Keld Ros', { staffNumber: '0042' }),
    row(4, 'Uta Brandt', { mail: 'uta.b@tarnhope.example' }),
    row(5, 'Maud van der Vael'),
    row(6, 'Jo Ros'),
    row(7, 'Jo Ros'),
  ];
  const files = ['img_1.jpeg', '0042.png', 'a/uta.b.jpg', 'vael-van-der_MAUD.webp', 'jo ros.jpg', 'weiss ilse.jpg'];
  expect(Object.fromEntries(matchPictures(files, rows))).toEqual({
    2: 'img_1.jpeg',
    3: '0042.png',
    4: 'a/uta.b.jpg',
    5: 'vael-van-der_MAUD.webp',
  });
  // What a sheet calls a picture: with its folder, with another ending, or without one, where a name has a dot in it.
  const called = (picture: string, files: string[]) =>
    matchPictures(files, [{ at: 2, picture, staffNumber: null, mail: null, name: '' }]).get(2);
  const two = ['photos/keld.jpg', 'photos/keld.ros.jpg'];
  expect(
    ['C:\\pictures\\keld.ros.PNG', 'keld.ros', 'KELD ROS.jpeg', 'keld.jpg', 'keld.r'].map((each) => called(each, two)),
  ).toEqual([...[two[1], two[1], two[1], two[0]], undefined]);
  expect(['0042', '42', 'a-7', 'A-7', '0', '000'].map(staffKey)).toEqual(['42', '42', 'A-7', 'A-7', '0', '0']);
});
