import fc from 'fast-check';
import { hostOf, isPattern, purposeOf, readPattern, cleanLine, cleanText, type Pattern } from './index';

const link = (url: string, purpose?: 'chat') => purposeOf({ url, ...(purpose ? { purpose } : {}) });

// The registry of URI schemes (IANA), RFC 5724, RFC 5870; words of hosts and paths: common practice, no published source.
test.each([
  ['https://heath.example/', 'web'],
  ['heath.example/booking/odile', 'booking'],
  ['https://book.heath.example/', 'booking'],
  ['https://heath.example/@odile', 'profile'],
  ['https://heath.example/in/odile', 'profile'],
  ['https://heath.example/a/b/c/pay', 'web'],
  ['https://pay.heath.example/odile', 'payment'],
  ['xmpp:odile@heath.example', 'chat'],
  ['geo:54.4862,-0.6133', 'map'],
  ['https://heath.example/mapping', 'web'],
  ['not a link at all', 'web'],
])('%s is for %s', (url, purpose) => {
  expect(link(url)).toBe(purpose);
});

test('what its holder says a link is for holds, whatever its address tells', () => {
  expect([link('https://heath.example/booking', 'chat'), link('https://heath.example/booking')]).toEqual([
    'chat',
    'booking',
  ]);
  expect(
    ['https://www.heath.example/a', 'http://Heath.example', 'mailto:a@heath.example', 'https://'].map(hostOf),
  ).toEqual(['heath.example', 'heath.example', '', '']);
});

const CHAT: Pattern = { name: 'Chat', address: 'https://chat.example/{number}' };
const PROFILE: Pattern = { name: 'Profile', address: 'https://profiles.example/in/{name}?x=1' };

test('a service’s name before a number or a user name is a link; a word that happens to follow is none', () => {
  const read = (text: string) => readPattern(text, [CHAT, PROFILE], 'GB')?.url ?? null;
  expect(read('Chat: 07700 900182')).toBe('https://chat.example/447700900182');
  expect(read('chat 07700 900182')).toBe('https://chat.example/447700900182');
  expect(read('Profile: @odile.b')).toBe('https://profiles.example/in/odile.b?x=1');
  expect(read('profile：odile')).toBe('https://profiles.example/in/odile?x=1');
  for (const none of [
    'Profile odile',
    'Profile:',
    'Chat: odile',
    'Profile: a b',
    'Profile: ../x',
    'Chatter: 07700 900182',
    `Profile: ${'x'.repeat(500)}`,
  ])
    expect([none, read(none)]).toEqual([none, null]);
});

test('whatever follows a service’s name, the link leads to the service’s own host and below its path', () => {
  fc.assert(
    fc.property(fc.string({ unit: 'grapheme', maxLength: 60 }), (typed) => {
      const made = readPattern(`Profile: ${typed}`, [PROFILE], 'GB');
      fc.pre(made !== null);
      const url = new URL(made!.url);
      expect([url.host, url.pathname.startsWith('/in/'), url.pathname.split('/').length, url.search]).toEqual([
        'profiles.example',
        true,
        3,
        '?x=1',
      ]);
    }),
    { numRuns: 300 },
  );
  for (const [name, address] of [
    ['Chat', 'https://{name}.example/'],
    ['Chat', 'https://chat.example{number}'],
    ['Chat', 'https://chat.example/{name}/{number}'],
    ['Chat', 'javascript:alert({name})'],
    ['Chat', 'https://chat.example/'],
    ['Chat:', 'https://chat.example/{name}'],
    ['7', 'https://chat.example/{name}'],
  ] as const)
    expect([name, address, isPattern({ name, address })]).toEqual([name, address, false]);
  expect([isPattern(CHAT), isPattern(PROFILE)]).toEqual([true, true]);
});

test('text that is kept has no controls and no marks that turn its order round (UAX #9), is composed (UAX #15), and cleaning it again changes nothing', () => {
  fc.assert(
    fc.property(fc.string({ unit: 'binary', maxLength: 80 }), (raw) => {
      const { text, removed } = cleanText(raw);
      expect(/[\p{Cc}\u202a-\u202e\u2066-\u2069]/u.test(text.replace(/[\n\t]/g, ''))).toBe(false);
      expect(Buffer.from(text, 'utf8').toString('utf8')).toBe(text);
      expect(text).toBe(text.normalize('NFC'));
      expect(cleanText(text)).toEqual({ text, removed: false });
      const line = cleanLine(raw).text;
      expect([/[\n\t]/.test(line), cleanLine(line).text]).toEqual([false, line]);
      if (!removed) expect(text.length).toBeLessThanOrEqual(raw.normalize('NFC').length);
    }),
    { numRuns: 500 },
  );
});
