import fc from 'fast-check';
import { getExampleNumber, type CountryCode } from 'libphonenumber-js/max';
import mobiles from 'libphonenumber-js/mobile/examples';
import { readBlock, readLabelled, recognise, recogniseLine } from './block';
import { clampCrop, squareOf } from './crop';
import { takesTexts } from './line-type';
import { isPattern, readPattern } from './patterns';
import { getCountries } from './phone';
import { purposeOf } from './purpose';
import { shownValue } from './shown';

let ids = 0;
const context = { country: 'GB', zone: 'Europe/London', freshId: () => `n${(ids += 1)}` };
const taken = (text: string) => {
  const { name, details, left } = readBlock(text, context);
  return { name, left, details: details.map((detail) => `${detail.kind}: ${shownValue(detail)}`) };
};

// Signatures as people write them (common practice, no published source); the people are invented.
test('a mail signature is taken apart, and nothing of it is dropped', () => {
  expect(
    taken(
      'Kind regards,\n\nCorin Hathersage\nLead rope inspector\nTarnhope Cableways Ltd\n2 Lower Station Yard\nSkell Bridge SB1 4TW\nT: 020 7946 0199 | M: 07700 900199\nE: corin@tarnhope.example\nwww.tarnhope.example/ropes\nMon-Fri 8-16:30\nPlease consider the trees',
    ),
  ).toEqual({
    name: 'Corin Hathersage',
    left: ['Please consider the trees'],
    details: [
      'title: Lead rope inspector',
      'organisation: Tarnhope Cableways Ltd',
      'address: 2 Lower Station Yard, Skell Bridge SB1 4TW',
      'phone: +44 20 7946 0199',
      'phone: +44 7700 900199',
      'email: corin@tarnhope.example',
      'link: tarnhope.example/ropes',
      'hours: Mon–Fri 8:00–16:30',
    ],
  });
});

test('a German contact block with a title before the name and a comma between post and firm', () => {
  const read = taken(
    'Dr. Jörg Müller-Lind\nLeiter Seilprüfung, Tarnhope Cableways\nSeilergasse 4\n70173 Stuttgart\nTel. +49 30 23125 013, joerg@seilbahn.example',
  );
  expect(read.name).toBe('Dr. Jörg Müller-Lind');
  expect(read.details).toEqual(
    expect.arrayContaining([
      'title: Leiter Seilprüfung',
      'organisation: Tarnhope Cableways',
      'email: joerg@seilbahn.example',
    ]),
  );
  expect(read.details.find((each) => each.startsWith('address'))).toMatch(/Seilergasse 4.*Stuttgart/);
});

test('whatever is pasted comes back as something: no line is lost and nothing throws (property)', () => {
  fc.assert(
    fc.property(fc.array(fc.string({ unit: 'binary', maxLength: 40 }), { maxLength: 12 }), (lines) => {
      const { details, left, name } = readBlock(lines.join('\n'), context);
      expect(details.length + left.length + (name ? 1 : 0)).toBeLessThanOrEqual(500);
    }),
  );
});

test('several labelled values on one line, and where one books, are told apart', () => {
  let at = 0;
  const { details, left } = readBlock(
    'Ilse Varrow\nT: 020 7946 0182 M: 07700 900182 E: ilse@tarnhope.example\nBook: calls.example/ilse\nMobile applications lead',
    { country: 'GB', zone: 'Europe/London', freshId: () => String((at += 1)) },
  );
  expect(
    details.map((each) => [each.kind, 'uses' in each ? each.uses : [], 'purpose' in each ? each.purpose : null]),
  ).toEqual([
    ['title', [], null],
    ['phone', [], null],
    ['phone', ['mobile'], null],
    ['email', [], null],
    ['link', [], 'booking'],
  ]);
  expect(left).toEqual([]);
});

test.each([
  ['020 7946 0182', 'phone'],
  ['+1 212 555 0123 ext. 4', 'phone'],
  ['ilse@tarnhope.example', 'email'],
  ['tarnhope.example/visit', 'link'],
  ['4 Lath Row, Skell Bridge', 'address'],
  ['Mon-Fri 9-17', 'hours'],
  ['she/her', 'pronouns'],
  ['Lead rope inspector', null],
  ['e.g. this one.', null],
])('%s reads as %s', (text, kind) => expect(recognise(text, 'GB')).toBe(kind));

test('no country’s example of a mobile number (libphonenumber) is taken for a land line that reads no texts', () => {
  const wrong = getCountries().filter((country) => {
    const example = getExampleNumber(country as CountryCode, mobiles);
    return example && takesTexts(example.number) === false;
  });
  expect(wrong).toEqual([]);
  // 020 is London's land lines (libphonenumber: FIXED_LINE); the range is reserved for fiction by its regulator.
  expect(takesTexts('+442079460182')).toBe(false);
});

test('what a link is for is told by its address, no service by its name; what its holder said comes first', () => {
  const of = (url: string) => purposeOf({ url });
  expect(of('https://tarnhope.example/book/visit')).toBe('booking');
  expect(of('https://pay.brandreth.example/')).toBe('payment');
  expect(of('https://social.example/@odile')).toBe('profile');
  expect(of('sms:+447700900300')).toBe('chat'); // RFC 5724
  expect(of('geo:51.5,-0.12')).toBe('map'); // RFC 5870
  expect(of('https://tarnhope.example/')).toBe('web');
  expect(purposeOf({ url: 'https://pay.brandreth.example/', purpose: 'web' })).toBe('web');
});

test('no corner of a crop lies outside of the turned picture (property, plane geometry)', () => {
  const share = fc.double({ min: 0, max: 1, noNaN: true });
  fc.assert(
    fc.property(
      share,
      share,
      fc.double({ min: 0.05, max: 1, noNaN: true }),
      fc.double({ min: -45, max: 45, noNaN: true }),
      fc.integer({ min: 60, max: 4_000 }),
      fc.integer({ min: 60, max: 4_000 }),
      (x, y, side, turn, width, height) => {
        const crop = clampCrop({ from: '', x, y, side, turn, focus: { x: 0.5, y: 0.5 } }, width, height);
        const square = squareOf(crop, width, height);
        const angle = (-turn * Math.PI) / 180;
        for (const [cx, cy] of [
          [0, 0],
          [1, 0],
          [0, 1],
          [1, 1],
        ] as const) {
          const [px, py] = [square.left + cx * square.side, square.top + cy * square.side];
          expect(Math.abs(px * Math.cos(angle) - py * Math.sin(angle))).toBeLessThanOrEqual(width / 2 + 0.01);
          expect(Math.abs(px * Math.sin(angle) + py * Math.cos(angle))).toBeLessThanOrEqual(height / 2 + 0.01);
        }
      },
    ),
  );
});

test.each([
  ['Head of rope inspection', 'title'],
  ['Seilprüfer und Ingenieurin', 'title'],
  ['Tarnhope Cableways Ltd', 'organisation'],
  ['I inspect ropes. Ask me anything.', null],
  ['Up, and down again, safely', null],
  ['020 7946 0182', 'phone'],
])('%s alone on a line reads as %s (common practice, no published source)', (text, kind) => {
  expect(recogniseLine(text, 'GB')).toBe(kind);
});

test('an organisation’s services make links of a number (E.164 without the plus) or a user name, in a line and in a signature', () => {
  const patterns = [
    { name: 'Chat', address: 'https://chat.example/{number}' },
    { name: 'Ropeway profile', address: 'https://profiles.example/in/{name}?from=card' },
  ];
  const read = (text: string) => readPattern(text, patterns, 'GB')?.url ?? null;
  expect(read('chat: 07700 900182')).toBe('https://chat.example/447700900182');
  expect(read('Chat +49 30 23125 014')).toBe('https://chat.example/493023125014');
  expect(read('Ropeway Profile: @ilse.v')).toBe('https://profiles.example/in/ilse.v?from=card');
  expect(read('Ropeway profile：żółw')).toBe('https://profiles.example/in/%C5%BC%C3%B3%C5%82w?from=card');
  for (const none of [
    'Chat',
    'Chat: ',
    'Chatter 07700 900182',
    'Chat with me on Tuesdays',
    'Ropeway profile updated',
    'Chat: https://a.example',
  ])
    expect([none, read(none)]).toEqual([none, null]);
  // Whatever is typed leads to the service’s own host.
  fc.assert(
    fc.property(fc.string(), (typed) => {
      const url = read(`Ropeway profile: ${typed}`);
      if (url) expect(new URL(url).host).toBe('profiles.example');
    }),
  );
  const { details } = readBlock('Ilse Varrow\nChat: 07700 900182\nM: 07700 900183', { ...context, patterns });
  expect(details.map((each) => `${each.label} ${shownValue(each)}`)).toEqual([
    'Chat chat.example/447700900182',
    ' +44 7700 900183',
  ]);
  for (const address of [
    'javascript:{name}',
    'https://a.example',
    'https://a.example/{name}/{name}',
    'https://{name}',
    'https://x.{name}/',
  ])
    expect([address, isPattern({ name: 'X', address })]).toEqual([address, false]);
});

/** Common practice, no published source. */
test.each([
  ['Mobile: 07700 900182', { kind: 'phone', uses: ['mobile'], text: '07700 900182' }],
  ['Fax 020 7946 0124', { kind: 'phone', uses: ['fax'], text: '020 7946 0124' }],
  ['Said as: OH-deel BRAN-dreth', { kind: 'said', uses: [], text: 'OH-deel BRAN-dreth' }],
  ['E: ilse@tarnhope.example', { kind: 'email', uses: [], text: 'ilse@tarnhope.example' }],
  ['Mobile applications lead', null],
  ['Address book keeper', null],
  ['E. Smith', null],
  ['Mobile: 07700 900182\nFax: 020 7946 0124', null],
])('a line typed with its label: %s', (typed, read) => {
  expect(readLabelled(typed, 'GB')).toEqual(read);
});
