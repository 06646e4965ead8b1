import { LIMITS } from '@/core/limits';
import { defaultLabel, shownValue } from '@/core/record';
import { readContactFile, readContacts, recordFrom, jcardOf } from './index';
import { readJcard } from './jcard';

const of = (...lines: string[]) => {
  const text = ['BEGIN:VCARD', 'VERSION:4.0', 'FN:Ilse Varrow', ...lines, 'END:VCARD', ''].join('\r\n');
  const { record } = readContactFile(text, 'GB').contacts[0]!;
  return {
    said: record.details.map((each) => `${each.label || defaultLabel(each)}: ${shownValue(each)}`),
    kept: record.kept.map(({ property, why }) => `${why} ${property}`),
  };
};

/* What a property means is RFC 6350 6 (RFC 2426 3 where the form is older); “practice” is how programs write it, from memory, no published source. */
test.each<[source: string, line: string, said: string[], kept: string[]]>([
  [
    '6.4.1',
    'TEL;VALUE=uri;TYPE="voice,work":tel:+44-20-7946-0182;ext=12',
    ['Phone, work: +44 20 7946 0182 ext. 12'],
    [],
  ],
  ['6.4.1', 'TEL;TYPE=home,fax:+442079460183', ['Fax, home: +44 20 7946 0183'], []],
  ['RFC 2426 3.3.1', 'TEL;TYPE=CELL:07700 900182', ['Mobile: +44 7700 900182'], []],
  ['practice', 'TEL;TYPE=iPhone:07700 900182', ['Mobile: +44 7700 900182'], []],
  ['practice', 'item1.TEL:07700 900182\r\nitem1.X-ABLabel:_$!<Mobile>!$_', ['Mobile: +44 7700 900182'], []],
  ['practice', 'item1.TEL:020 7946 0182\r\nitem1.X-ABLabel:Night desk', ['Night desk: +44 20 7946 0182'], []],
  ['6.4.1', 'TEL:', [], []],
  ['6.4.1', 'TEL:call the desk', [], ['unreadable-value TEL:call the desk']],
  ['6.4.2', 'EMAIL;TYPE=work:ilse@tarnhope.example', ['E-mail, work: ilse@tarnhope.example'], []],
  ['6.4.2', 'EMAIL:nobody at all', [], ['unreadable-value EMAIL:nobody at all']],
  ['6.7.8', 'URL:https://tarnhope.example/ropes', ['Web: tarnhope.example/ropes'], []],
  ['6.7.8', 'URL:javascript:alert(1)', [], ['refused-link URL:javascript:alert(1)']],
  ['6.5.2', 'GEO:geo:54.5,-3.25', ['Map: geo:54.5,-3.25'], []],
  ['6.6.4', 'ORG:Tarnhope Cableways;Ropes;Splicing', ['Firm: Tarnhope Cableways · Ropes · Splicing'], []],
  ['6.6.4', 'ORG:;Ropes', ['Firm: Ropes'], []],
  ['6.6.4', 'ORG:;', [], []],
  ['6.6.1', 'TITLE:Rope inspector\\, valley', ['Job title: Rope inspector, valley'], []],
  ['6.6.1', `TITLE:${'x'.repeat(LIMITS.text + 1)}`, [], [`unreadable-value TITLE:${'x'.repeat(LIMITS.text + 1)}`]],
  ['6.2.3', 'NICKNAME:Illy,Var', ['Known as: Illy, Var'], []],
  ['6.7.1', 'CATEGORIES:ropes,,cabins', ['Category: ropes, cabins'], []],
  ['6.7.2', 'NOTE:First\\nsecond', ['Note: First\nsecond'], []],
  ['6.7.2', 'NOTE:', [], []],
  ['6.2.5', 'BDAY:19840630', ['Birthday: 1984-06-30'], []],
  ['6.2.5', 'BDAY:--0630', ['Birthday: --06-30'], []],
  ['6.2.5', 'BDAY:1984-06', ['Birthday: 1984-06'], []],
  ['6.2.5', 'BDAY:19840630T103000Z', ['Birthday: 1984-06-30'], []],
  ['6.2.5', 'BDAY;VALUE=text:in summer', [], ['unreadable-value BDAY;VALUE=text:in summer']],
  ['practice', 'BDAY;X-APPLE-OMIT-YEAR=1604:1604-06-30'.replace('X-APPLE', 'X-ANY'), ['Birthday: --06-30'], []],
  [
    '6.3.1',
    'ADR;TYPE=work;GEO="geo:54.5,-3.25":;Flat 2;4 Wharf Row;Stavering;;SB1 4TW;United Kingdom',
    ['Address, work: Flat 2, 4 Wharf Row, Stavering SB1 4TW, United Kingdom'],
    [],
  ],
  ['6.3.1', 'ADR:;;;;;;', [], []],
  ['RFC 9554 2.4', 'PRONOUNS:she/her', ['Pronouns: she/her'], []],
  ['6.4.4', 'LANG;TYPE=work:de', ['Speaks: de'], []],
  [
    'practice',
    'X-SOCIALPROFILE;TYPE=ropeworks:https://ropeworks.example/ilse',
    ['Ropeworks: ropeworks.example/ilse'],
    [],
  ],
  [
    'practice',
    'X-SOCIALPROFILE;TYPE=ropeworks:x-user:ilse',
    [],
    ['not-understood SOCIALPROFILE;TYPE=ropeworks:x-user:ilse'],
  ],
  [
    'RFC 9554 2.5',
    'SOCIALPROFILE;SERVICE-TYPE=Ropeworks:https://ropeworks.example/ilse',
    ['Ropeworks: ropeworks.example/ilse'],
    [],
  ],
  ['6.10', 'X-ROPE-LIST:https://tarnhope.example/list', ['Rope list: tarnhope.example/list'], []],
  ['6.10', 'X-ROPE-LIST:no address', [], ['not-understood X-ROPE-LIST:no address']],
])('%s: %s', (_, line, said, kept) => {
  const read = of(line);
  expect(read.said).toEqual(said);
  expect(read.kept).toEqual(kept);
});

/* RFC 7095: 3.2 an array of properties, 3.3 version, 3.3.1.3 structured values, 7.1 groups; its Appendix B has this order of parts. */
const JCARD = [
  'vcard',
  [
    ['version', {}, 'text', '4.0'],
    ['fn', {}, 'text', 'Ilse Varrow'],
    ['n', {}, 'text', ['Varrow', 'Ilse', '', '', ['ing. jr', 'M.Sc.']]],
    ['bday', {}, 'date-and-or-time', '--06-30'],
    ['org', { type: 'work' }, 'text', 'Tarnhope Cableways'],
    ['adr', { type: 'work' }, 'text', ['', 'Suite 2', '4 Wharf Row', 'Stavering', '', 'SB1 4TW', 'United Kingdom']],
    ['tel', { type: ['work', 'voice'], pref: '1' }, 'uri', 'tel:+44-20-7946-0182;ext=102'],
    ['email', { type: 'work', group: 'item1' }, 'text', 'ilse@tarnhope.example'],
    ['x-ablabel', { group: 'item1' }, 'text', 'Rope desk'],
  ],
] as const;

test('a jCard says the same as the file that it stands for, and is written back as it came', () => {
  const [read] = readContacts(JSON.stringify(JCARD));
  const { record } = recordFrom(read!.card!, 'GB')!;
  expect([record.name.family, record.name.given, record.name.suffix]).toEqual(['Varrow', 'Ilse', 'ing. jr M.Sc.']);
  expect(record.details.map((each) => `${each.label || defaultLabel(each)}: ${shownValue(each)}`).sort()).toEqual([
    'Address, work: Suite 2, 4 Wharf Row, Stavering SB1 4TW, United Kingdom',
    'Birthday: --06-30',
    'Firm: Tarnhope Cableways',
    'Phone, work: +44 20 7946 0182 ext. 102',
    'Rope desk: ilse@tarnhope.example',
  ]);
  expect(jcardOf(read!.card!)).toEqual(JCARD.map((part) => part));
});

test.each<[string, unknown, string[]]>([
  ['no JSON', '{', ['JSON_UNREADABLE']],
  ['another object', { vcard: [] }, ['CARD_EMPTY']],
  ['an empty card', ['vcard', []], ['CARD_EMPTY']],
  ['a card of nothing but its version', ['vcard', [['version', {}, 'text', '4.0']]], ['CARD_EMPTY']],
  [
    'properties that are none',
    [
      'vcard',
      [
        ['fn', {}, 'text', 'Ilse'],
        null,
        7,
        ['fn'],
        ['fn', [], 'text', 'x'],
        ['f n', {}, 'text', 'x'],
        ['tel', {}, 5, 'x'],
      ],
    ],
    ['LINE_UNREADABLE'],
  ],
  [
    'a frame within it',
    [
      'vcard',
      [
        ['fn', {}, 'text', 'Ilse'],
        ['begin', {}, 'text', 'VCARD'],
      ],
    ],
    ['LINE_UNREADABLE'],
  ],
])('a jCard that is %s is told, and what can be read of it is read', (_, json, warnings) => {
  const read = readJcard(typeof json === 'string' ? json : JSON.stringify(json));
  expect(read.flatMap((each) => each.warnings.map(({ code }) => code))).toEqual(warnings);
  if (warnings[0] === 'LINE_UNREADABLE') expect(read[0]!.card!.properties.map(({ name }) => name)).toEqual(['fn']);
});

test('values of no text have none, and parameters that are no words fall away', () => {
  const odd = [
    'vcard',
    [
      ['fn', { type: [1, null, {}], 'x y': 'z', group: 'a b' }, 'text', null],
      ['note', {}, 'text', 7],
      ['org', {}, 'text', ['A', { b: 1 }, ['c', 2]]],
    ],
  ];
  const [read] = readContacts(JSON.stringify(odd));
  expect(read!.card!.properties.map(({ name, group, params, values }) => [name, group, [...params], values])).toEqual([
    ['fn', '', [['type', ['1']]], ['']],
    ['note', '', [], ['7']],
    ['org', '', [], [['A', '', ['c', '2']]]],
  ]);
});
