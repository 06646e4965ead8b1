import { firstLines, lineOf, NOWHERE, type Line } from '@/core/card';
import { RecordSchema, type PersonRecord } from '@/core/record';
import { fieldsOf, judgeRow, keysTwice, nameOfRow, readRow, wordsLike, type Cells, type Known } from './index';

/* What a run would do with a row: common practice of personnel work, no published source. */
const read = (cells: Cells) => readRow(cells, { country: 'GB', order: 'day first' });
const ILSE: Cells = {
  'staff number': '0042',
  given: 'Ilse',
  family: 'Varrow',
  email: 'ilse@tarnhope.example',
  title: 'Rope inspector',
};
const record: PersonRecord = RecordSchema.parse({
  name: { given: 'Ilse', family: 'Varrow' },
  details: [
    { kind: 'email', id: 'staff-email', label: '', preferred: false, address: 'ilse@tarnhope.example', uses: ['work'] },
    { kind: 'title', id: 'staff-title', label: '', preferred: false, text: 'Rope inspector' },
  ],
});
const known: Known = {
  ...{ record, staffNumber: '0042', joins: null, leaves: null, teams: ['Ropes'], office: 'Valley station' },
  written: { title: { id: 'staff-title', said: 'Rope inspector' } },
};
const of = (cells: Cells, more: Partial<Parameters<typeof judgeRow>[1]> = {}) => {
  const { verdict, changes, remarks } = judgeRow(read(cells), {
    ...{
      known,
      namesakes: 0,
      twice: null,
      offices: new Map([
        ['valley station', {}],
        ['summit', {}],
      ]),
      decision: null,
      owned: {},
    },
    ...more,
  });
  return {
    verdict,
    changed: changes.map(({ of: what, was, is }) => `${what}: ${was} > ${is}`),
    remarks: remarks.map(({ code }) => code),
  };
};

test.each<[string, Cells, Partial<Parameters<typeof judgeRow>[1]>, ReturnType<typeof of>]>([
  ['the very same', ILSE, {}, { verdict: 'same', changed: [], remarks: [] }],
  [
    'a key alone, as of a photo day',
    { 'staff number': '42' },
    {},
    { verdict: 'changed', changed: ['staff number: 0042 > 42'], remarks: [] },
  ],
  [
    'another title',
    { ...ILSE, title: 'Head of ropes' },
    {},
    { verdict: 'changed', changed: ['title: Rope inspector > Head of ropes'], remarks: [] },
  ],
  [
    'an office by its name, however it is written',
    { ...ILSE, office: 'VALLEY station' },
    {},
    { verdict: 'same', changed: [], remarks: [] },
  ],
  [
    'another office',
    { ...ILSE, office: 'Summit' },
    {},
    { verdict: 'changed', changed: ['office: Valley station > Summit'], remarks: [] },
  ],
  [
    'an office that there is not',
    { ...ILSE, office: 'Moon' },
    {},
    { verdict: 'error', changed: ['office: Valley station > Moon'], remarks: ['no office'] },
  ],
  ['the same teams in another order', { ...ILSE, team: 'Ropes' }, {}, { verdict: 'same', changed: [], remarks: [] }],
  [
    'a second team',
    { ...ILSE, team: 'Rescue; Ropes' },
    {},
    { verdict: 'changed', changed: ['team: Ropes > Rescue, Ropes'], remarks: [] },
  ],
  [
    'a day to leave on',
    { ...ILSE, leaves: '31.12.2026' },
    {},
    { verdict: 'leaving', changed: ['leaves:  > 2026-12-31'], remarks: [] },
  ],
  [
    'leaving before joining',
    { ...ILSE, joins: '1.2.2026', leaves: '31.1.2026' },
    {},
    { verdict: 'error', changed: ['joins:  > 2026-02-01', 'leaves:  > 2026-01-31'], remarks: ['leaves first'] },
  ],
  ['a key that another row has', ILSE, { twice: [2, 7] }, { verdict: 'error', changed: [], remarks: ['key twice'] }],
  ['somebody new', ILSE, { known: null }, { verdict: 'new', changed: [], remarks: [] }],
  [
    'somebody new without a name',
    { 'staff number': '43' },
    { known: null },
    { verdict: 'error', changed: [], remarks: ['no name'] },
  ],
  [
    'nobody’s key',
    { given: 'Ilse', family: 'Varrow' },
    { known: null },
    { verdict: 'error', changed: [], remarks: ['no key'] },
  ],
  [
    'new, with a name that somebody has',
    ILSE,
    { known: null, namesakes: 1 },
    { verdict: 'check', changed: [], remarks: ['namesake'] },
  ],
  [
    'the same, decided to be new',
    ILSE,
    { known: null, namesakes: 1, decision: 'new' },
    { verdict: 'new', changed: [], remarks: [] },
  ],
  [
    'married: another surname, the same mail',
    { ...ILSE, family: 'Brandt' },
    {},
    { verdict: 'changed', changed: ['name: Ilse Varrow > Ilse Brandt'], remarks: [] },
  ],
])('%s', (_, cells, more, judged) => {
  expect(of(cells, more)).toEqual(judged);
});

test('another surname and another mail under a number that is known may be another person: it waits for whoever decides', () => {
  const cells = { ...ILSE, family: 'Brandt', email: 'i.brandt@tarnhope.example' };
  expect(of(cells)).toMatchObject({ verdict: 'check', remarks: ['another person'] });
  expect(of(cells, { decision: 'known' })).toMatchObject({ verdict: 'changed', remarks: [] });
  // Who has no mail address yet is not doubted for having one now.
  const without = { ...known, record: { ...record, details: record.details.filter(({ kind }) => kind !== 'email') } };
  expect(of(cells, { known: without })).toMatchObject({ verdict: 'changed', remarks: [] });
});

test('what its holder wrote since stays and is remarked on, unless it is the organisation’s', () => {
  const theirs = {
    ...known,
    record: {
      ...record,
      details: record.details.map((each) => (each.kind === 'title' ? { ...each, text: 'Theirs' } : each)),
    },
  };
  const cells = { ...ILSE, title: 'Head of ropes' };
  expect(of(cells, { known: theirs })).toEqual({ verdict: 'same', changed: [], remarks: ['kept'] });
  expect(of(cells, { known: theirs, owned: { title: 'sheet' } })).toMatchObject({
    verdict: 'changed',
    changed: ['title: Theirs > Head of ropes'],
  });
});

test('rows of one key are told of each other, whatever zeros a spreadsheet took from it and however a mail is written', () => {
  const rows = [
    { 'staff number': '0042', given: 'A' },
    { 'staff number': '42', given: 'B' },
    { email: 'Uta@Tarnhope.example', given: 'C' },
    { email: 'uta@tarnhope.example', given: 'D' },
    { 'staff number': '43', email: 'uta@tarnhope.example', given: 'E' },
    { given: 'F' },
    { given: 'G' },
  ].map((cells, at) => ({ at: at + 2, read: read(cells) }));
  expect(Object.fromEntries(keysTwice(rows))).toEqual({ 2: [2, 3], 3: [2, 3], 4: [4, 5], 5: [4, 5] });
  expect(rows.slice(0, 4).map((row) => nameOfRow(row.read))).toEqual(['A', 'B', 'C', 'D']);
  expect([{ 'staff number': '7' }, { email: 'a@b.example' }, {}].map((cells) => nameOfRow(read(cells)))).toEqual([
    '7',
    'a@b.example',
    '',
  ]);
});

test('a sheet needs what cards like the pattern show, and nothing that is written on the card itself', () => {
  const lines = firstLines(record, { isPrivate: false });
  const own: Line = {
    ...lineOf('mine', lines[0]!.ticks),
    own: { kind: 'licence', id: 'mine', label: '', preferred: false, text: 'UK 7' },
  };
  const picture = {
    kind: 'photo',
    id: 'p',
    label: '',
    preferred: false,
    hash: 'ab'.repeat(32),
    width: 9,
    height: 9,
  } as never;
  const shown = [...lines, lineOf('p', lines[0]!.ticks), own];
  expect(fieldsOf({ lines: shown, record: { ...record, details: [...record.details, picture] } })).toEqual({
    needed: ['title', 'email'],
    picture: true,
  });
  // What goes nowhere is asked of nobody.
  const dark = lines.map((line) => (line.detail === 'staff-email' ? { ...line, ticks: NOWHERE } : line));
  expect(fieldsOf({ lines: dark, record })).toEqual({ needed: ['title'], picture: false });
  // Words of the pattern's own person stay with them; labels and own lines go along.
  const words = {
    de: { 'staff-title/wording': 'Seilprüferin', 'staff-title/label': 'Stelle', 'mine/wording': 'Lizenz', name: 'x' },
  };
  expect(wordsLike({ lines: shown, words })).toEqual({
    de: { 'staff-title/label': 'Stelle', 'mine/wording': 'Lizenz', name: 'x' },
  });
});
