import { LIMITS } from '@/core/limits';
import type { Detail, PersonRecord, Use } from '@/core/record';
import {
  backToLayout,
  copiedLines,
  firstLines,
  lineOf,
  NAME_LINE,
  NOWHERE,
  PAGE_AND_FILE,
  privacyOf,
  reconcile,
  typedTicks,
  goesOut,
  isWarned,
  addedTicks,
  type Privacy,
} from './index';
import { inReadingOrder } from './first-ticks';
import { isOfFirm } from './privacy';

/*
 * What is for work, what is private, and in which order a card is read: common practice, no published source. Numbers are those that
 * regulators reserve for fiction.
 */
const common = { label: '', preferred: false };
let ids = 0;
const make = (kind: Detail['kind'], value: object, more: object = {}): Detail =>
  ({ kind, id: `p${(ids += 1)}`, ...common, ...value, ...more }) as Detail;
const phone = (number: string, uses: Use[], label = '') => make('phone', { number, uses }, { label });
const email = (address: string, uses: Use[] = [], label = '') => make('email', { address, uses }, { label });
const link = (url: string, more: object = {}) => make('link', { url, uses: [] }, more);
const address = (uses: Use[], label = '') =>
  make(
    'address',
    { uses, locality: 'Skell Bridge', poBox: '', extended: '', street: '', region: '', postcode: '', country: '' },
    { label },
  );
const firm = (name: string) => make('organisation', { name, units: [] });
const person = (...details: Detail[]): PersonRecord => ({
  name: { prefix: '', given: 'Ilse', additional: '', family: 'Varrow', suffix: '', written: '' },
  details,
  kept: [],
});
const LAND = '+442079460182';
const MOBILE = '+447700900182';
const typeOf = (number: string) => (number === LAND ? 'land' : number === MOBILE ? 'mobile' : null);
const at = (detail: Detail, ...others: Detail[]): Privacy | null =>
  privacyOf(detail, person(detail, ...others), typeOf);

test.each<[string, string, boolean]>([
  ['Tarnhope Cableways Ltd', 'tarnhope.example', true],
  ['Tarnhope Cableways Ltd', 'cableways.example', true],
  ['Tarnhope Cableways Ltd', 'tarnhopecableways.example', true],
  ['Tarnhope Cableways Ltd', 'tarnhope-cableways.example', true],
  ['Tarnhope Cableways Ltd', 'tarnhopecablewaysltd.example', true],
  ['Tarnhope Cableways Ltd', 'mail.ropes.tarnhope.example', true],
  ['Tarnhope Cableways Ltd', 'TARNHOPE.Example', true],
  ['Tarnhope Cableways Ltd', 'tarnhope.co.example', true],
  ['Tarnhope Cableways Ltd', 'tarnhope.gov.example', true],
  // A name below somebody else's domain, a part of a word, a form of firm, a word of every firm.
  ['Tarnhope Cableways Ltd', 'tarnhope.post.example', false],
  ['Tarnhope Cableways Ltd', 'tarn.example', false],
  ['Tarnhope Cableways Ltd', 'ltd.example', false],
  ['Tarnhope Services', 'services.example', false],
  ['Solutions Partner GmbH', 'solutions.example', false],
  ['Tarnhope Cableways Ltd', 'example', false],
  ['Tarnhope Cableways Ltd', '', false],
  // Three letters are a firm's name as a whole, and no telling word beside others; two are neither.
  ['ABC', 'abc.example', true],
  ['ABC Ropes', 'abc.example', false],
  ['ABC Ropes', 'ropes.example', true],
  ['Rime Ropes', 'rime.example', true],
  ['AB', 'ab.example', false],
  ['Müller-Lind', 'muller.example', true],
])('%s at %s: its own %s', (name, host, own) => {
  expect(isOfFirm(host, person(make('title', { text: 'tarnhope' }), firm(name)))).toBe(own);
  expect(isOfFirm(host, person(make('title', { text: 'tarnhope' })))).toBe(false);
});

test.each<[string, Detail, Privacy | null]>([
  ['home', phone(LAND, ['home']), 'home'],
  ['home and work', phone(LAND, ['home', 'work']), null],
  ['home by its label, whatever its type', phone(LAND, ['work'], 'Zuhause'), 'home'],
  ['somebody’s own people, whatever their type', phone(LAND, ['work'], 'Mum, office'), 'own label'],
  ['work by its type', phone('+441632960001', ['work']), null],
  ['work by its label', phone('+441632960001', [], 'Büro: Zentrale'), null],
  ['work and more in its label', phone(LAND, [], 'Büro am See'), 'own label'],
  ['what only names what it is', phone(LAND, [], 'Telefon Nummer'), null],
  ['a mobile by its number', phone(MOBILE, []), 'mobile'],
  ['a mobile by its use', phone('+441632960001', ['mobile']), 'mobile'],
  ['a land line', phone(LAND, []), null],
  ['a land line for emergencies', phone(LAND, ['emergency']), 'unmarked'],
  ['a number of which nothing is known', phone('+441632960001', []), 'unmarked'],
  ['an address without a mark', address([]), 'unmarked'],
  ['an address for work', address(['work']), null],
  ['an address with words of its own', address([], 'Hut'), 'own label'],
  ['a mail elsewhere', email('ilse@post.example'), 'elsewhere'],
  ['a mail that is none', email('tarnhope'), 'elsewhere'],
  ['the firm’s mail', email('ilse@tarnhope.example'), null],
  ['a link elsewhere', link('https://elsewhere.example/'), 'elsewhere'],
  ['the firm’s link', link('https://tarnhope.example/'), null],
  ['a diary', link('https://diary.example/', { purpose: 'booking' }), null],
  ['a profile', link('https://network.example/@ilse', { purpose: 'profile' }), 'profile'],
  ['a profile for work', link('https://network.example/company/ilse', { purpose: 'profile' }), null],
  ['a profile whose name begins so', link('https://network.example/incognito', { purpose: 'profile' }), 'profile'],
  ['a profile that is no address', link('in/ilse', { purpose: 'profile' }), 'profile'],
  ['a birthday', make('birthday', { date: '1984-06-30' }), 'birthday'],
  ['a nickname', make('nickname', { text: 'Illy' }), 'nickname'],
  ['a note', make('note', { text: 'x' }), 'note'],
  ['a category', make('category', { text: 'x' }), 'note'],
  ['one’s own words', make('own', { text: 'x' }), 'own words'],
  ['how a name is said', make('said', { text: 'ILL-zeh' }), 'said'],
  ['a title', make('title', { text: 'x' }), null],
])('%s', (_, detail, privacy) => {
  expect(at(detail, firm('Tarnhope Cableways Ltd'))).toBe(privacy);
});

test('what somebody adds or types themselves is meant to be read as far as it is their own words', () => {
  const [own, said, born] = [
    make('own', { text: 'x' }),
    make('said', { text: 'x' }),
    make('birthday', { date: '1984-06-30' }),
  ];
  const ticks = (of: typeof addedTicks, detail: Detail) => of(detail, person(detail), { isPrivate: false }, typeOf);
  expect([own, said, born].map((each) => ticks(addedTicks, each))).toEqual([PAGE_AND_FILE, NOWHERE, NOWHERE]);
  expect([own, said, born].map((each) => ticks(typedTicks, each))).toEqual([PAGE_AND_FILE, PAGE_AND_FILE, NOWHERE]);
});

test('a card is read from the face to the note; within a kind a preferred one first, others as they came', () => {
  const preferred = { preferred: true };
  const details = [
    make('note', { text: '1' }),
    email('b@post.example'),
    phone(LAND, []),
    make('email', { address: 'a@post.example', uses: [] }, preferred),
    make('title', { text: '2' }),
    email('c@post.example'),
    make('photo', { picture: 'a' }),
  ];
  const shown = inReadingOrder(details).map((detail) => ('address' in detail ? detail.address : detail.kind));
  expect(shown).toEqual(['photo', 'title', 'phone', 'a@post.example', 'b@post.example', 'c@post.example', 'note']);
});

test('for a public audience what is private comes last of its kind, also where it is preferred: a large button takes the first', () => {
  const home = make('phone', { number: MOBILE, uses: ['home'] }, { preferred: true });
  const own = make('email', { address: 'i@post.example', uses: [] });
  const details = [home, own, phone(LAND, []), phone(LAND, ['work']), email('i@tarnhope.example'), firm('Tarnhope')];
  const order = (isPrivate: boolean) =>
    firstLines(person(...details), { isPrivate }, typeOf)
      .slice(1)
      .map(({ detail }) => details.findIndex(({ id }) => id === detail));
  expect(order(false)).toEqual([5, 2, 3, 0, 4, 1]);
  expect(order(true)).toEqual([5, 0, 2, 3, 1, 4]);
});

test('a record longer than a card has room for: what goes out takes room, what stays takes none', () => {
  const hidden = Array.from({ length: LIMITS.shownLines }, (_, index) => make('nickname', { text: `n${index}` }));
  const open = Array.from({ length: LIMITS.shownLines + 5 }, (_, index) => make('title', { text: `t${index}` }));
  const out = (...details: Detail[]) => firstLines(person(...details), { isPrivate: false }, typeOf).filter(goesOut);
  expect(out(...hidden, phone(LAND, ['work']))).toHaveLength(2);
  expect(out(...open)).toHaveLength(LIMITS.shownLines - 1);
  // A fax goes into the file alone, and stands there like any other line.
  expect(out(...open.map(({ id }) => ({ ...phone(LAND, ['fax', 'work']), id })))).toHaveLength(LIMITS.shownLines - 1);
  expect(firstLines(person(phone(LAND, ['pager', 'work'])), { isPrivate: false }, typeOf)[1]!.ticks).toEqual({
    ...NOWHERE,
    file: true,
  });
  expect([isWarned('said'), isWarned('own words'), isWarned(null), isWarned('mobile')]).toEqual([
    false,
    false,
    false,
    true,
  ]);
});

test('a frozen code and tag carry the first way of each kind that goes out at all, in the order of reading', () => {
  const home = make('phone', { number: MOBILE, uses: ['home'] }, { preferred: true });
  const details = [
    home,
    phone(LAND, ['fax']),
    phone(LAND, ['work']),
    phone(LAND, ['work']),
    make('title', { text: 'x' }),
    email('i@tarnhope.example'),
    firm('Tarnhope'),
  ];
  const lines = firstLines(person(...details), { isPrivate: false }, typeOf);
  const small = lines.filter(({ ticks }) => ticks.code || ticks.tag);
  expect(lines[0]).toEqual(
    lineOf(NAME_LINE, {
      page: true,
      file: true,
      code: true,
      tag: true,
      signature: true,
      print: true,
      backdrop: true,
      pass: true,
    }),
  );
  expect(small.slice(1).map(({ detail }) => details.findIndex(({ id }) => id === detail))).toEqual([6, 2, 5]);
  for (const { ticks } of small) expect(ticks.code).toBe(ticks.tag);
  expect(lines.find(({ detail }) => detail === home.id)!.ticks).toEqual(NOWHERE);
});

test('a very long record starts with as much as a card has room for', () => {
  const titles = (count: number, text: string) => Array.from({ length: count }, () => make('title', { text }));
  const out = (details: Detail[]) =>
    firstLines(person(...details), { isPrivate: false }).filter(({ ticks }) => ticks.page).length;
  expect(out(titles(LIMITS.shownLines + 50, 'x'))).toBe(LIMITS.shownLines - 1);
  // Half of the letters a card may show, since labels in further languages come on top.
  const long = 'x'.repeat(1_000);
  expect(out(titles(50, long))).toBe(Math.floor(LIMITS.shownLetters / 2 / 1_000));
  expect(out(titles(5, long))).toBe(6);
});

test('a card held against a record that went on: what is gone falls away, what came is ticked nowhere, what was adopted is the record’s', () => {
  const [a, b, own] = [make('title', { text: 'a' }), make('title', { text: 'b' }), make('title', { text: 'own' })];
  const lines = [lineOf(a.id, PAGE_AND_FILE), lineOf('gone', PAGE_AND_FILE), lineOf(own.id, PAGE_AND_FILE, own)];
  const now = reconcile(lines, person(a, b));
  expect(now.map(({ detail }) => detail)).toEqual([NAME_LINE, a.id, own.id, b.id]);
  expect(now.map(({ ticks }) => ticks.page)).toEqual([true, true, true, false]);
  expect(now[2]!.own).toBe(own);
  const adopted = reconcile(now, person(a, b, own));
  expect(adopted.map(({ detail, own: mine }) => [detail, mine])).toEqual(now.map(({ detail }) => [detail, null]));
});

test('another card for an audience loses what is private and what it leaves out, and keeps the rest', () => {
  const [work, home, title, words] = [
    phone(LAND, ['work']),
    phone(LAND, ['home']),
    make('title', { text: 'x' }),
    make('own', { text: 'x' }),
  ];
  const record = person(work, home, title, words);
  const lines = [NAME_LINE, work.id, home.id, title.id, words.id].map((id) => lineOf(id, PAGE_AND_FILE));
  const kept = (audience: Parameters<typeof copiedLines>[2]) =>
    copiedLines(lines, record, audience, typeOf).flatMap(({ detail, ticks }) => (ticks.page ? detail : []));
  expect(kept({ isPrivate: false, without: [] })).toEqual([NAME_LINE, work.id, title.id, words.id]);
  expect(kept({ isPrivate: true, without: ['title'] })).toEqual([NAME_LINE, work.id, home.id, words.id]);
});

test('back in the layout’s order labels, emphasis and gaps are the layout’s; ticks, wordings and parts stay', () => {
  const [mail, title, own] = [email('i@post.example'), make('title', { text: 'x' }), make('note', { text: 'own' })];
  const worded = { ...lineOf(mail.id, PAGE_AND_FILE), label: 'Desk', emphasis: 'strong' as const, gap: true };
  const lines = [
    lineOf(own.id, NOWHERE, own),
    { ...worded, wording: 'w', part: 'town' as const },
    lineOf(title.id, NOWHERE),
    lineOf(NAME_LINE, PAGE_AND_FILE),
  ];
  const back = backToLayout(lines, person(mail, title));
  expect(back.map(({ detail }) => detail)).toEqual([NAME_LINE, title.id, mail.id, own.id]);
  expect(back[2]).toEqual({ ...lineOf(mail.id, PAGE_AND_FILE), wording: 'w', part: 'town' });
});
