import { differencesOf, firstChoice, knownAs, marksOf, withChosen } from './compare';
import { RecordSchema, type Detail } from './record';

const record = (details: Partial<Detail>[], more: object = {}) =>
  RecordSchema.parse({
    name: { given: 'Ilse', family: 'Varrow' },
    details: details.map((detail, at) => ({ id: `x${at}`, ...detail })),
    ...more,
  });
const known = record(
  [
    { kind: 'phone', number: '+442079460182', uses: ['work'] },
    { kind: 'email', address: 'ilse@tarnhope.example', uses: [] },
    { kind: 'title', text: 'Rope inspector' },
    { kind: 'phone', number: '+447700900182', uses: ['mobile'] },
  ],
  { uid: 'urn:uuid:a', kept: [{ property: 'X-A:1', why: 'not-understood' }] },
);

// The four cases of taking in a contact that is known: nothing new, another spelling, more, otherwise. Invented.
test('another spelling is no difference; one of a kind changes, a further one adds; the untouched stay', () => {
  expect(differencesOf(known, known, false)).toEqual([]);
  const spelled = record([
    { kind: 'title', text: 'rope-inspector ' },
    { kind: 'email', address: 'ILSE@tarnhope.example' },
  ]);
  expect(differencesOf(known, spelled, false)).toEqual([]);
  const other = record(
    [
      { kind: 'phone', number: '+442079460999', uses: ['work'] },
      { kind: 'phone', number: '+447700900182', uses: ['mobile'] },
      { kind: 'title', text: 'Lead inspector' },
      { kind: 'link', url: 'https://tarnhope.example/', uses: [] },
    ],
    { kept: [{ property: 'X-B:2', why: 'not-understood' }] },
  );
  const differences = differencesOf(known, other, true);
  expect(differences.map(({ key, kind, now, would }) => [key, kind, now, would])).toEqual([
    ['d:x0', 'changes', '+44 20 7946 0182', '+44 20 7946 0999'],
    ['d:x2', 'changes', 'Rope inspector', 'Lead inspector'],
    ['d:x3', 'adds', null, 'tarnhope.example'],
    ['photo', 'adds', null, ''],
    ['kept', 'adds', null, '1'],
  ]);
  expect(firstChoice(differences)).toEqual(['d:x3', 'photo', 'kept']);
  const merged = withChosen(known, other, new Set(['d:x0', 'd:x3', 'kept']));
  expect(merged.details.map(({ id, kind }) => `${id} ${kind}`)).toEqual([
    'x0 phone',
    'x1 email',
    'x2 title',
    'x3 phone',
    'd5 link',
  ]);
  expect(merged.details[0]).toMatchObject({ number: '+442079460999' });
  expect(merged.kept.map(({ property }) => property)).toEqual(['X-A:1', 'X-B:2']);
  expect(differencesOf(merged, other, false).map(({ key }) => key)).toEqual(['d:x2']);
});

test('the same person by UID, mail, number and name, firm and name; a shared mark tells nobody', () => {
  const office = (given: string) =>
    record([{ kind: 'email', address: 'office@tarnhope.example' }], { name: { given } });
  const everybody = { '1': known, '2': office('Maud'), '3': office('Renske'), '4': office('Bram') };
  const byMark = (mark: string) =>
    new Set(Object.entries(everybody).flatMap(([id, each]) => (marksOf(each).includes(mark) ? id : [])));
  const card = '0d9f3c1e-8f0a-4a57-9a39-0b1c2d3e4f50';
  const byOwnUid = (uid: string) => (uid === card ? '1' : null);
  const find = (details: Partial<Detail>[], more: object = {}) => knownAs(record(details, more), { byMark, byOwnUid });
  expect(find([], { uid: `URN:UUID:${card.toUpperCase()}` })).toBe('1');
  expect(find([], { uid: 'urn:uuid:nobody' })).toBeNull();
  expect(find([{ kind: 'email', address: 'Ilse@Tarnhope.example' }], { name: { given: 'I' } })).toBe('1');
  expect(find([{ kind: 'phone', number: '+447700900182' }])).toBe('1');
  expect(find([{ kind: 'phone', number: '+447700900182' }], { name: { given: 'Somebody' } })).toBeNull();
  expect(find([{ kind: 'email', address: 'office@tarnhope.example' }], { name: { given: 'New' } })).toBeNull();
  expect(find([])).toBeNull();
});
