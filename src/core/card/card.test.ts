import type { Detail, PersonRecord } from '@/core/record';
import { compose, firstLines, NO_PARTS, linesOn, reconcile, withheldFrom } from './index';
import { changesSince } from '@/core/revisions';

const phone = (id: string, number: string, uses: Extract<Detail, { kind: 'phone' }>['uses']): Detail => ({
  kind: 'phone',
  id,
  label: '',
  preferred: false,
  number,
  uses,
});
const person: PersonRecord = {
  name: { prefix: '', given: 'Ilse', additional: '', family: 'Varrow', suffix: '', written: '' },
  details: [
    phone('work', '+442079460182', ['work']),
    phone('own', '+447700900182', ['mobile']),
    phone('home', '+441632960182', ['home']),
    {
      kind: 'address',
      id: 'lives',
      label: '',
      preferred: false,
      uses: ['home'],
      poBox: '',
      extended: '',
      street: '4 Lath Row',
      locality: 'Skell Bridge',
      region: '',
      postcode: '',
      country: '',
    },
    { kind: 'birthday', id: 'born', label: '', preferred: false, date: '1984-06-30' },
    { kind: 'note', id: 'note', label: '', preferred: false, text: 'Met at the yearly inspection' },
    { kind: 'title', id: 'title', label: '', preferred: false, text: 'Rope inspector' },
  ],
  kept: [],
};

test('a private audience gets the private details, still not the note', () => {
  const ticked = firstLines(person, { isPrivate: true }).filter(({ ticks }) => ticks.file);
  expect(ticked.map(({ detail }) => detail).sort()).toEqual(['born', 'home', 'lives', 'name', 'own', 'title', 'work']);
});

test('a detail that came later is on the card, ticked nowhere; one that went leaves no gap', () => {
  const lines = firstLines(person, { isPrivate: true });
  const later = {
    ...person,
    details: [...person.details.filter(({ id }) => id !== 'home'), phone('new', '+442079460183', ['work'])],
  };
  const now = reconcile(lines, later);
  expect(now.find(({ detail }) => detail === 'home')).toBeUndefined();
  expect(now.at(-1)).toMatchObject({ detail: 'new', ticks: { page: false, file: false } });
});

test('a composition holds ticked lines only, with own wording; the record is untouched', () => {
  const before = JSON.stringify(person);
  const lines = firstLines(person, { isPrivate: false }).map((line) =>
    line.detail === 'title' ? { ...line, wording: 'Lead rope inspector', label: 'What I do' } : line,
  );
  const composed = compose(person, lines, 'GB');
  expect(
    composed.ok &&
      linesOn(composed.value, 'file').map(({ label, detail }) => [label, 'text' in detail ? detail.text : detail.id]),
  ).toEqual([
    ['What I do', 'Lead rope inspector'],
    ['Phone, work', 'work'],
  ]);
  expect(JSON.stringify(composed)).not.toContain('Lath Row');
  expect(JSON.stringify(person)).toBe(before);
});

test('the wording of the name reaches its five parts; a wording that is no number is refused for a phone', () => {
  const lines = firstLines(person, { isPrivate: false });
  const named = compose(
    person,
    lines.map((line) => (line.detail === 'name' ? { ...line, wording: 'Dr Ilse M. Varrow' } : line)),
    'GB',
  );
  expect(named.ok && named.value.name).toMatchObject({
    prefix: 'Dr',
    given: 'Ilse',
    additional: 'M.',
    family: 'Varrow',
  });
  const wrong = compose(
    person,
    lines.map((line) => (line.detail === 'work' ? { ...line, wording: 'ask at the desk' } : line)),
    'GB',
  );
  expect(wrong).toEqual({ ok: false, problem: { code: 'PHONE_UNREADABLE' } });
});

test('a card is said once in its own language: English where it names none', () => {
  const lines = firstLines(person, { isPrivate: false });
  const parts = { ...NO_PARTS, words: { en: {}, de: {}, fr: {} } };
  const further = (language: string | null) => {
    const composed = compose(person, lines, 'GB', language, parts);
    return composed.ok && Object.keys(composed.value.further);
  };
  expect(further(null)).toEqual(['de', 'fr']);
  expect(further('en')).toEqual(['de', 'fr']);
  expect(further('de')).toEqual(['en', 'fr']);
});

test('what is withheld from a channel leaves out what another ticked line says too', () => {
  const lines = firstLines(person, { isPrivate: false });
  expect(withheldFrom(person, lines, 'file', 'GB')).toEqual(expect.arrayContaining(['+44 7700 900182', '1984-06-30']));
  const twice = { ...person, details: [...person.details, phone('again', '+442079460182', ['home'])] };
  expect(withheldFrom(twice, reconcile(lines, twice), 'file', 'GB')).not.toContain('+44 20 7946 0182');
});

test('changes since a revision are found whatever order a store gives the keys', () => {
  const lines = firstLines(person, { isPrivate: false });
  const now = compose(person, lines, 'GB');
  if (!now.ok) throw new Error('does not compose');
  const stored = {
    ...now.value,
    lines: now.value.lines.map((line) => ({
      ...line,
      detail: Object.fromEntries(Object.entries(line.detail).reverse()) as Detail,
    })),
  };
  expect(changesSince(stored, now.value)).toEqual([]);
  const unticked = {
    ...now.value,
    lines: now.value.lines.map((line) => (line.id === 'work' ? { ...line, on: ['page' as const] } : line)),
  };
  expect(changesSince(stored, unticked, ['page', 'file'])).toEqual([
    { line: 'Phone, work', what: 'no longer on contact file' },
  ]);
});
