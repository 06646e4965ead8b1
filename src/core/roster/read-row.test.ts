import fc from 'fast-check';
import { LIMITS } from '@/core/limits';
import { DetailSchema, shownValue, writtenName } from '@/core/record';
import { FIELDS, isError, keyOf, readRow, staffKey, type Cell, type Cells } from './index';
import { SLOT_RULES, SLOTS, slotOf } from './slots';

const read = (cells: Cells, country = 'GB') => readRow(cells, { country, order: 'day first' });
const remarks = (cells: Cells, country?: string) =>
  read(cells, country).remarks.map(({ field, code }) => `${field} ${code}`);
/** A row that nothing is wrong with. */
const ILSE: Cells = { 'staff number': '0041', given: 'Ilse', family: 'Varrow', email: 'ilse@tarnhope.example' };

const cell: fc.Arbitrary<Cell> = fc.oneof(
  fc.string({ unit: 'grapheme', maxLength: 40 }),
  fc.constantFrom(
    '',
    ' ',
    '020 7946 0182',
    '+442079460182',
    '4.42079E+11',
    '31.12.2026',
    '45000',
    'x'.repeat(3_000),
    '=1+1',
    'Varrow, Ilse',
    'a@b.example',
    '0',
    '-',
    '1;2|3',
  ),
  fc.record({
    text: fc.constantFrom('442079460000', '1e21', '2026-12-31', '#REF!', '0.1', 'NaN'),
    was: fc.constantFrom('number' as const, 'date' as const, 'error' as const),
  }),
);
const anyCells: fc.Arbitrary<Cells> = fc.dictionary(fc.constantFrom(...FIELDS), cell, { maxKeys: 12 });

test('whatever a row holds it is read: what cannot be is remarked on beside its cell and not taken, what is taken is a detail of its own slot (property)', () => {
  fc.assert(
    fc.property(
      anyCells,
      fc.constantFrom('GB', 'DE', 'US'),
      fc.constantFrom('day first' as const, 'month first' as const),
      (cells, country, order) => {
        const row = readRow(cells, { country, order });
        for (const { field } of row.remarks) expect(field === null || field in cells).toBe(true);
        const wrong = new Set(row.remarks.filter(isError).map(({ field }) => field));
        for (const slot of SLOTS) {
          const detail = row.details[slot];
          if (!detail) continue;
          // What a roster writes it finds again as its own, and a record may hold it.
          expect([slot, slotOf(detail)]).toEqual([slot, slot]);
          expect(DetailSchema.safeParse(detail).success).toBe(true);
          expect(SLOT_RULES[slot].fields.some((field) => wrong.has(field))).toBe(false);
        }
        const ids = Object.values(row.details).map(({ id }) => id);
        expect(new Set(ids).size).toBe(ids.length);
        expect(row.name === null).toBe(row.remarks.some(({ code }) => code === 'no name'));
        if (row.name) expect(writtenName(row.name)).not.toBe('');
        for (const day of [row.joins, row.leaves]) expect(day === null || /^\d{4}-\d\d-\d\d$/.test(day)).toBe(true);
      },
    ),
    { numRuns: 300 },
  );
});

test('what stands in a cell of its own is what its detail shows', () => {
  const row = read({
    ...ILSE,
    ...{ title: ' Rope  inspector ', pronouns: 'she/her', firm: 'Tarnhope Cableways', department: 'Ropes' },
    ...{
      phone: '020 7946 0182',
      extension: '12',
      mobile: '07700 900182',
      'own mobile': '07700 900183',
      fax: '020 7946 0183',
    },
    ...{ 'own email': 'ilse@home.example', link: 'tarnhope.example', profile: 'https://quill.example/ilse' },
    ...{
      street: '4 Lath Row',
      postcode: 'SB1 4TW',
      locality: 'Tarnhope',
      team: 'Ropes; Night | Ropes',
      office: 'Summit',
    },
  });
  expect(row.remarks).toEqual([]);
  expect(Object.fromEntries(Object.entries(row.details).map(([slot, detail]) => [slot, shownValue(detail)]))).toEqual({
    ...{ pronouns: 'she/her', title: 'Rope inspector', firm: 'Tarnhope Cableways · Ropes' },
    // E.164 numbers as their country writes them abroad (libphonenumber).
    ...{
      phone: '+44 20 7946 0182 ext. 12',
      mobile: '+44 7700 900182',
      'own mobile': '+44 7700 900183',
      fax: '+44 20 7946 0183',
    },
    ...{ email: 'ilse@tarnhope.example', 'own email': 'ilse@home.example' },
    ...{ link: 'tarnhope.example', profile: 'quill.example/ilse', address: '4 Lath Row, Tarnhope SB1 4TW' },
  });
  expect(row.teams).toEqual(['Ropes', 'Night']);
  expect([row.office, row.mail, row.staffNumber]).toEqual(['Summit', 'ilse@tarnhope.example', '0041']);
  expect(row.details.mobile).toMatchObject({ uses: ['work', 'mobile'] });
  expect(row.details['own mobile']).toMatchObject({ uses: ['mobile'] });
});

// Spreadsheets keep fifteen figures of a number and write long ones with an exponent; they drop zeros at the front (ECMA-376-1 18.8.30; from memory).
test.each<[string, Cells, string[]]>([
  ['a number that was rounded to an exponent', { phone: '4.42079E+11' }, ['phone scientific']],
  ['a number whose last figures were lost', { mobile: { text: '447700000000', was: 'number' } }, ['mobile scientific']],
  [
    'a number without the zero that it is dialled with',
    { phone: { text: '2079460182', was: 'number' } },
    ['phone zero added'],
  ],
  ['an error of a formula', { title: { text: '#REF!', was: 'error' } }, ['title formula error']],
  ['more than a record holds', { title: 'x'.repeat(LIMITS.text + 1) }, ['title too long']],
  ['a file name longer than there are', { picture: 'x'.repeat(201) }, ['picture too long']],
  ['no number', { phone: 'ask at the desk' }, ['phone unreadable']],
  ['an extension that is none', { phone: '020 7946 0182', extension: 'twelve' }, ['phone unreadable']],
  ['no address', { email: 'ilse at tarnhope' }, ['email unreadable']],
  ['a day that there is not', { joins: '31.02.2026' }, ['joins unreadable']],
  ['a day as spreadsheets count it', { joins: '45000' }, ['joins day number']],
  ['who leaves before they come', { joins: '2026-05-01', leaves: '2026-04-30' }, ['leaves leaves first']],
  ['who leaves on their first day', { joins: '2026-05-01', leaves: '2026-05-01' }, []],
])('%s is told', (_, cells, told) => expect(remarks({ ...ILSE, ...cells })).toEqual(told));

test('a day number is that of the 1900 date system: 45000 is 2023-03-15 (ECMA-376-1, 18.17.4.1)', () => {
  expect(read({ ...ILSE, joins: '45000' }).joins).toBe('2023-03-15');
});

test('somebody is known by their staff number, else by their mail; without either the row waits, and what cannot be read is no lack', () => {
  const key = (cells: Cells) => keyOf(read(cells));
  expect([key(ILSE), key({ ...ILSE, 'staff number': '' }), key({ given: 'Ilse' })]).toEqual([
    ...['staff 41', 'mail ilse@tarnhope.example', null],
  ]);
  expect(key({ ...ILSE, 'staff number': '', email: 'Ilse@Tarnhope.example' })).toBe('mail ilse@tarnhope.example');
  expect(remarks({ given: 'Ilse' })).toEqual(['null no key']);
  expect(remarks({ given: 'Ilse', email: 'none' })).toEqual(['email unreadable']);
  expect(remarks({ 'staff number': '1' })).toEqual(['null no name']);
  // However many zeros were taken from it, and however its letters are written.
  expect(['0041', '41', '00041', '0', '000', 'a7', '0A7'].map(staffKey)).toEqual([
    '41',
    '41',
    '41',
    '0',
    '0',
    'A7',
    'A7',
  ]);
});

test.each<[Cells, string, string]>([
  [{ name: 'Varrow, Ilse' }, 'Ilse', 'Varrow'],
  [{ name: 'Ilse Varrow' }, 'Ilse', 'Varrow'],
  [{ name: 'van der Vael, Maud' }, 'Maud', 'van der Vael'],
  [{ name: 'Somebody Else', given: 'Ilse', family: 'Varrow' }, 'Ilse', 'Varrow'],
  [{ name: 'Somebody Else', family: 'Varrow' }, '', 'Varrow'],
  [{ name: 'Odile' }, 'Odile', ''],
])('%j is %s %s', (cells, given, family) => {
  expect(read({ 'staff number': '1', ...cells }).name).toMatchObject({ given, family });
});
