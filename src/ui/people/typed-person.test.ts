import fc from 'fast-check';
import { firstLines } from '@/core/card';
import { shownValue, writtenName } from '@/core/record';
import { recordOf, withSignature, type TypedPerson } from './typed-person';

const EMPTY: TypedPerson = {
  name: '',
  title: '',
  firm: '',
  phone: '',
  email: '',
  forWork: { phone: false, email: false },
  photo: '',
  more: [],
};
const READ = { country: 'GB', zone: 'Europe/London', patterns: [] };
/** Numbers reserved for fiction; a signature as mail programs write it. */
const SIGNATURE = `--
Corin Hathersage
Lead rope inspector
Tarnhope Cableways Ltd
T: 020 7946 0199
M: 07700 900199
corin@tarnhope.example
www.tarnhope.example`;

let counter = 0;
beforeEach(() => {
  counter = 0;
  Object.defineProperty(globalThis, 'crypto', {
    configurable: true,
    value: { randomUUID: () => `${(counter += 1)}`.padStart(13, '0') },
  });
});

test('a pasted signature fills the form where it is empty, and nothing of it is lost: what has no field comes along', () => {
  const typed = withSignature(EMPTY, SIGNATURE, READ);
  expect([typed.name, typed.title, typed.firm, typed.phone, typed.email]).toEqual([
    'Corin Hathersage',
    'Lead rope inspector',
    'Tarnhope Cableways Ltd',
    '+442079460199',
    'corin@tarnhope.example',
  ]);
  expect(typed.more.map((each) => shownValue(each)).sort()).toEqual(['+44 7700 900199', 'tarnhope.example'].sort());
  // Pasted once more, it is the same person and not two.
  expect(withSignature(typed, SIGNATURE, READ).more.length).toBeLessThanOrEqual(typed.more.length + 5);
  expect(withSignature(typed, SIGNATURE, READ)).toMatchObject({ name: typed.name, phone: typed.phone });
});

test('what somebody typed is never overwritten by what they paste', () => {
  const word = fc.string({ unit: 'grapheme', minLength: 1, maxLength: 20 }).filter((text) => text.trim() !== '');
  fc.assert(
    fc.property(word, word, word, word, (name, title, firm, email) => {
      const typed = withSignature({ ...EMPTY, name, title, firm, email }, SIGNATURE, READ);
      expect([typed.name.trim(), typed.title, typed.firm, typed.email]).toEqual([name.trim(), title, firm, email]);
      const values = typed.more.map((each) => shownValue(each));
      // What was pasted beside it comes along as a detail of its own.
      if (title.trim() && title !== 'Lead rope inspector') expect(values).toContain('Lead rope inspector');
      if (email.trim() && email !== 'corin@tarnhope.example') expect(values).toContain('corin@tarnhope.example');
    }),
  );
});

test('the card that grows shows what can be read so far, and a number marked for work starts ticked, another one not', () => {
  const typed: TypedPerson = {
    ...EMPTY,
    name: 'Corin Hathersage',
    phone: '07700 900199',
    email: 'not yet an add',
    title: 'Inspector',
  };
  const record = recordOf(typed, 'GB');
  expect([writtenName(record.name), record.details.map(({ kind }) => kind)]).toEqual([
    'Corin Hathersage',
    ['title', 'phone'],
  ]);
  const ticked = (of: TypedPerson) =>
    firstLines(recordOf(of, 'GB'), { isPrivate: false }).find(({ detail }) => detail === 'phone')?.ticks.page;
  expect([ticked(typed), ticked({ ...typed, forWork: { phone: true, email: false } })]).toEqual([false, true]);
  expect(writtenName(recordOf(EMPTY, 'GB').name)).toBe('…');
});
