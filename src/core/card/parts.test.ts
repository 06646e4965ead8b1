import { DetailSchema, NameSchema, type PersonRecord } from '@/core/record';
import { compose, withheldFrom } from './compose';
import { firstLines } from './first-ticks';
import { cutDetail, cutName, partsOf } from './parts';
import { missingFrom, startingLines, STARTS } from './starts';

const address = DetailSchema.parse({
  kind: 'address',
  id: 'lives',
  street: '4 Lath Row',
  locality: 'Skell Bridge',
  postcode: 'SB1 4TW',
  country: 'United Kingdom',
  geo: '51.5,-0.12',
  map: 'https://maps.example/lath-row-4',
  uses: ['home'],
});
const person: PersonRecord = {
  name: NameSchema.parse({ prefix: 'Dr', given: 'Ilse', additional: 'Maria Ann', family: 'Varrow' }),
  details: [
    address,
    DetailSchema.parse({ kind: 'birthday', id: 'born', date: '1984-06-30' }),
    DetailSchema.parse({ kind: 'phone', id: 'own', number: '+447700900182', uses: ['mobile', 'home'] }),
    DetailSchema.parse({ kind: 'phone', id: 'desk', number: '+442079460182', uses: ['work'] }),
  ],
  kept: [],
};

test('a town alone carries neither street nor postcode nor where the house stands, and the proof holds it to that', () => {
  expect(JSON.stringify(cutDetail(address, 'town'))).not.toMatch(/Lath|SB1|51\.5|maps\.example|Kingdom/);
  expect(cutDetail(DetailSchema.parse({ ...address, region: 'Lathshire' }), 'town-and-region')).toMatchObject({
    region: 'Lathshire',
    country: '',
    street: '',
    postcode: '',
  });
  const lines = firstLines(person, { isPrivate: true }).map((line) =>
    line.detail === 'lives' ? { ...line, part: 'town' as const } : line,
  );
  const composed = compose(person, lines, 'GB');
  expect(JSON.stringify(composed)).not.toMatch(/Lath|SB1/);
  expect(withheldFrom(person, lines, 'page', 'GB')).toEqual(expect.arrayContaining(['4 Lath Row', 'SB1 4TW']));
});

test('a birthday without its year is --MM-DD (ISO 8601:2000 as RFC 6350 4.3.1 takes it)', () => {
  expect(cutDetail(person.details[1]!, 'day-and-month')).toMatchObject({ date: '--06-30' });
});

test.each([
  ['initials', 'I. V.'],
  ['initial-and-family', 'I. Varrow'],
  ['given', 'Ilse'],
] as const)('a name cut to %s', (part, written) => {
  const { given, family } = cutName(person.name, part);
  expect([given, family].filter(Boolean).join(' ')).toBe(written);
});

test('initials are letters as people see them: combining marks and emoji stay whole (Unicode UAX #29)', () => {
  expect(cutName(NameSchema.parse({ given: 'E\u0301lodie', family: '👩‍🚒 Varrow' }), 'initials')).toMatchObject({
    given: 'E\u0301.'.normalize('NFC'),
    family: '👩‍🚒.',
  });
  // A name of one word has no family name to keep: it stays whole.
  expect(cutName(NameSchema.parse({ given: 'Odile' }), 'initial-and-family')).toMatchObject({ given: 'Odile' });
});

test('each of at least ten starting cards ticks nothing private for a public audience and offers what is missing', () => {
  expect(STARTS.length).toBeGreaterThanOrEqual(10);
  for (const start of STARTS) {
    const lines = startingLines(person, { isPrivate: false, without: [] }, start);
    const out = lines.filter(({ ticks }) => ticks.page || ticks.file).map(({ detail }) => detail);
    expect([start.key, out.filter((id) => ['lives', 'born', 'own'].includes(id))]).toEqual([start.key, []]);
    expect(lines.map(({ detail }) => detail).sort()).toEqual(['born', 'desk', 'lives', 'name', 'own']);
    expect(missingFrom(start, []).length).toBe(start.lines.length);
    expect(partsOf('phone')).toEqual([]);
  }
});
