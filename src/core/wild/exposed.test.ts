import type { Privacy } from '@/core/card';
import type { Detail, PersonRecord } from '@/core/record';
import { exposureOf, noLongerSaid, type GivenOut } from './index';
import { normalised, type Value } from './value';

/*
 * What is private is `privacyOf`'s to say, which has its own test; here is of whom it is asked: of the record as it is today, of what went out where that
 * says nothing any more, and of nobody for what is the house style's. Numbers are those that Ofcom reserves for drama.
 */
const common = { label: '', preferred: false };
const phone = (id: string, number: string, uses: string[], more: object = {}): Detail =>
  ({ kind: 'phone', id, ...common, number, uses, ...more }) as Detail;
const person = (...details: Detail[]): PersonRecord => ({
  name: { prefix: '', given: 'Ilse', additional: '', family: 'Varrow', suffix: '', written: '' },
  details,
  kept: [],
});
const OWN = '+447700900182';
const typeOf = (number: string) => (number.startsWith('+447') ? 'mobile' : 'land');
const given = (line: string, detail: Detail, more: Partial<GivenOut> = {}): GivenOut => {
  const value = detail as Value;
  return { line, kind: value.kind, value: normalised(value), source: 'card', detail: value, ...more };
};
const inside = (line: string, number: string) =>
  given(line, phone('inside', number, []), { source: 'inside', value: number });

const home = phone('p', OWN, ['home']);
const work = phone('p', OWN, ['work']);
const desk = phone('q', '+442079460182', ['work']);
const born: Detail = { kind: 'birthday', id: 'b', ...common, date: '1984-06-30' };
const own: Detail = { kind: 'own', id: 'o', ...common, text: `Ring ${OWN}` };

test.each<[string, GivenOut, PersonRecord, Privacy | null]>([
  ['as the record marks it', given('p', home), person(home), 'home'],
  ['as the record marks it by now, whatever went out', given('p', home), person(work), null],
  ['marked as home since it went out', given('p', work), person(home), 'home'],
  ['another number by now: as it went out', given('p', home), person(phone('p', '+447700900999', ['work'])), 'home'],
  ['gone from the record', given('b', born), person(desk), 'birthday'],
  ['another detail of the same number is not this one', given('p', home), person({ ...work, id: 'other' }), 'home'],
  ['within words, a number of the record', inside('o', OWN), person(own, home), 'home'],
  ['within words, one that is for work', inside('o', OWN), person(own, work), null],
  [
    'within words, with its extension',
    inside('o', OWN),
    person(own, phone('p', OWN, ['home'], { extension: '12' })),
    'home',
  ],
  ['within words, one that the record does not know', inside('o', OWN), person(own), 'mobile'],
  ['within words, a land line that nobody knows', inside('o', '+442079460182'), person(own), null],
  ['own words by themselves', given('o', own), person(own), null],
  ['of the house style', given('house-desk', home, { source: 'house' }), person(home), null],
  ['within words of the house style', inside('house-words', OWN), person(home), null],
  ['typed for one piece', given('', own, { source: 'typed' }), person(own), null],
])('%s', (_, out, record, privacy) => {
  expect(exposureOf(out, record, typeOf)).toBe(privacy);
});

test('what went along with a contact is held against all that the contact says today, its name too', () => {
  const passed = (...details: Detail[]) => details.map((each) => given(each.id, each));
  const name = { kind: 'name' as const, value: 'ilse varrow', detail: { kind: 'name' as const, text: 'Ilse Varrow' } };
  expect(noLongerSaid([name, ...passed(home, born)], person(desk, born))).toEqual(['+44 7700 900182']);
  // The same number of another line is still so, however it is marked.
  expect(noLongerSaid(passed(home), person({ ...work, id: 'z' }))).toEqual([]);
  const married = { ...person(home), name: { ...person().name, family: 'Hythe' } };
  expect(noLongerSaid([name], married)).toEqual(['Ilse Varrow']);
});
