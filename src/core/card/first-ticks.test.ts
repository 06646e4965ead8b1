import fc from 'fast-check';
import type { Detail, PersonRecord, Use } from '@/core/record';
import { shownValue } from '@/core/record';
import { lineTypeOf } from '@/core/record/line-type';
import { readContacts, recordFrom, VERSIONS, writeRead } from '@/core/vcard';
import {
  addedTicks,
  compose,
  copiedLines,
  firstLines,
  goesOut,
  isPrivate,
  privacyOf,
  NO_PARTS,
  reconcile,
  startingLines,
  startOf,
  STARTS,
  type Line,
} from './index';
import { restoredDraft } from '@/core/revisions';
import { firstTicks } from './first-ticks';

let ids = 0;
const make = (kind: Detail['kind'], value: object, label = ''): Detail =>
  ({ kind, id: `d${(ids += 1)}`, label, preferred: false, ...value }) as Detail;
const phone = (number: string, uses: Use[] = [], label = '') => make('phone', { number, uses }, label);
const email = (address: string, uses: Use[] = [], label = '') => make('email', { address, uses }, label);
const link = (url: string, uses: Use[] = [], label = '', purpose?: string) =>
  make('link', { url, uses, ...(purpose ? { purpose } : {}) }, label);
const address = (locality: string, uses: Use[]) =>
  make('address', { locality, uses, poBox: '', extended: '', street: '', region: '', postcode: '', country: '' });
const firm = make('organisation', { name: 'Tarnhope Cableways Ltd', units: ['Ropes'] });
const personOf = (details: Detail[]): PersonRecord => ({
  name: { prefix: '', given: 'Ilse', additional: '', family: 'Varrow', suffix: '', written: '' },
  details,
  kept: [],
});

/** Numbers are those that national regulators reserve for fiction: Ofcom 020 7946 0xxx, 07700 900xxx. */
const PUBLIC: (() => Detail)[] = [
  () => phone('+442079460182'),
  () => phone('+447700900182', ['mobile', 'work']),
  () => phone('+447700900183', [], 'Office, direct line'),
  () => email('ilse@tarnhope.example'),
  () => email('ilse@post.example', ['work']),
  () => link('https://www.tarnhope.example/ropes'),
  () => link('https://ropes.tarnhope.co.example/'),
  () => link('https://diary.example/ilse', [], '', 'booking'),
  () => link('https://network.example/in/ilse-varrow'),
  () => address('Tarnhope', ['work']),
  () => make('title', { text: 'Rope inspector' }),
  () => make('pronouns', { text: 'she/her' }),
  () => make('credential', { text: 'Chartered engineer' }),
];
const PRIVATE: (() => Detail)[] = [
  () => phone('+447700900184'),
  () => phone('+447700900185', ['mobile']),
  () => phone('+442079460186', ['home']),
  () => phone('+447700900187', ['mobile'], 'Emergency (Mum)'),
  () => phone('+442079460188', [], 'Mum’s work'),
  () => email('ilse.v@post.example'),
  () => email('ilse@tarnhope.example', ['home']),
  () => link('https://ilse.blog.example/'),
  () => link('https://tarnhope.blog.example/'),
  () => email('ilse@tarnhope.post.example'),
  () => link('https://pictures.example/@ilse'),
  () => address('Skell Bridge', ['home']),
  () => address('Skell Bridge', []),
  () => make('birthday', { date: '1984-06-30' }),
  () => make('nickname', { text: 'Illy' }),
  () => make('note', { text: 'Met at the yearly inspection' }),
];

const ticked = (lines: Line[]): string[] => lines.filter(goesOut).map(({ detail }) => detail);
const PUBLIC_AUDIENCE = { isPrivate: false, without: [] };

/** What is private, and what is for work: common practice, no published source. */
test('only what is positively for work or public starts ticked, whatever way it came in (property)', () => {
  fc.assert(
    fc.property(
      fc.shuffledSubarray(PRIVATE),
      fc.shuffledSubarray(PUBLIC),
      fc.constantFrom(null, ...STARTS.map(({ key }) => key)),
      (hidden, shown, trade) => {
        const secrets = hidden.map((each) => each());
        const open = shown.map((each) => each());
        const person = personOf([...secrets, firm, ...open]);
        const secret = new Set(secrets.map(({ id }) => id));
        const first = firstLines(person, PUBLIC_AUDIENCE, lineTypeOf);
        expect(ticked(first).sort()).toEqual(['name', firm.id, ...open.map(({ id }) => id)].sort());
        const all = firstLines(person, { isPrivate: true }, lineTypeOf);
        const draft = { lines: first, audience: 'Work', language: null, ...NO_PARTS };
        const composed = compose(person, first, 'GB', null, draft);
        if (!composed.ok) throw new Error(composed.problem.code);
        const ways: Line[][] = [
          startingLines(person, PUBLIC_AUDIENCE, startOf(trade), lineTypeOf),
          copiedLines(all, person, PUBLIC_AUDIENCE, lineTypeOf),
          reconcile(firstLines(personOf(open), PUBLIC_AUDIENCE, lineTypeOf), person),
          restoredDraft({ draft, composition: composed.value, erased: [] }, { draft, record: person, country: 'GB' })
            .draft.lines,
        ];
        for (const lines of ways) expect(ticked(lines).filter((id) => secret.has(id))).toEqual([]);
        for (const each of secrets) {
          const { page, file, code, tag } = addedTicks(each, person, PUBLIC_AUDIENCE, lineTypeOf);
          expect([each.kind, page || file || code || tag]).toEqual([each.kind, false]);
        }
      },
    ),
  );
});

/** A phone's export: labels apart from their values in groups, as several families of phones write them (from memory). */
const EXPORT = [
  'BEGIN:VCARD',
  'VERSION:3.0',
  'N:Varrow;Ilse;;;',
  'FN:Ilse Varrow',
  'X-PHONETIC-FIRST-NAME:ILL-zeh',
  'X-PHONETIC-LAST-NAME:VAR-oh',
  'NICKNAME:Illy',
  'ORG:Tarnhope Cableways;Ropes',
  'TITLE:Rope inspector',
  'BDAY:1984-06-30',
  'TEL;TYPE=CELL,WORK:+44 7700 900182',
  'item1.TEL;TYPE=CELL:+44 7700 900184',
  'item1.X-ABLabel:Emergency (Mum)',
  'TEL;TYPE=HOME:+44 20 7946 0186',
  'item2.TEL:+44 7700 900185',
  'item2.X-ABLabel:_$!<Other>!$_',
  'EMAIL;TYPE=WORK:ilse@tarnhope.example',
  'EMAIL;TYPE=INTERNET:illy@post.example',
  'ADR;TYPE=HOME:;;4 Lath Row;Skell Bridge;;;',
  'ADR;TYPE=WORK:;;2 Lower Station Yard;Tarnhope;;;',
  'item3.URL:https://illy.blog.example/',
  'item3.X-ABLabel:My garden',
  'NOTE:Met at the yearly inspection',
  'END:VCARD',
  '',
].join('\r\n');

test.each(VERSIONS)(
  'a phone’s export, written as vCard %s: nothing private starts ticked, all that is for work does',
  (version) => {
    const [read] = readContacts(EXPORT);
    const [again] = readContacts(version === '3.0' ? EXPORT : writeRead(read!.card!, version).text);
    const { record } = recordFrom(again!.card!, 'GB')!;
    const out = new Set(ticked(firstLines(record, PUBLIC_AUDIENCE, lineTypeOf)));
    const values = (is: boolean) =>
      record.details.filter(({ id }) => out.has(id) === is).map((each) => shownValue(each));
    expect(values(true).sort()).toEqual(
      [
        '+44 7700 900182',
        '2 Lower Station Yard, Tarnhope',
        'Rope inspector',
        'Tarnhope Cableways · Ropes',
        'ilse@tarnhope.example',
      ].sort(),
    );
    expect(values(false)).toContain('ILL-zeh VAR-oh');
    expect(values(false)).toHaveLength(record.details.length - 5);
  },
);

/** Common practice, no published source: a fax is a number like another, off the page and in the file. */
test('a fax is private by what it is for and by its line, as any number is', () => {
  const fax = (number: string, ...uses: Use[]) => phone(number, ['fax', ...uses]);
  const isIt = (detail: Detail) => isPrivate(detail, personOf([firm, detail]), lineTypeOf);
  expect(isIt(fax('+442079460124'))).toBe(false);
  expect(isIt(fax('+442079460124', 'work'))).toBe(false);
  expect(isIt(fax('+442079460124', 'home'))).toBe(true);
  expect(privacyOf(fax('+447700900124', 'mobile'), personOf([firm]), lineTypeOf)).toBe('mobile');
  expect(isIt(fax('+447700900124'))).toBe(true);
  const first = firstTicks(fax('+442079460124', 'work'), personOf([firm]), PUBLIC_AUDIENCE, lineTypeOf);
  expect(first).toEqual({
    page: false,
    file: true,
    code: false,
    tag: false,
    signature: false,
    print: false,
    backdrop: false,
    pass: false,
  });
});
