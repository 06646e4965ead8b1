import fc from 'fast-check';
import { directionOf, languageName, OUR_LANGUAGES, pickLanguage, plural, readLanguage } from './index';

/** Languages whose writing direction the platform's data holds (CLDR, through Intl.Locale). */
const TAGS = [
  'en',
  'ar',
  'he',
  'fa',
  'ur',
  'yi',
  'ps',
  'sd',
  'ug',
  'ckb',
  'az',
  'de',
  'ja',
  'tr',
  'ha',
  'el',
  'ru',
  'hi',
  'th',
  'ko',
];
type WithText = Intl.Locale & {
  textInfo?: { direction: 'ltr' | 'rtl' };
  getTextInfo?: () => { direction: 'ltr' | 'rtl' };
};

test('which way a language is written is what the platform says of it (CLDR)', () => {
  for (const tag of TAGS) {
    const locale = new Intl.Locale(tag) as WithText;
    const told = (locale.textInfo ?? locale.getTextInfo?.())?.direction;
    expect([tag, directionOf(tag)]).toEqual([tag, told ?? directionOf(tag)]);
  }
  // By their script (Unicode Standard, Bidi_Class R and AL), which a tag may name.
  const byScript = ['az-Arab', 'uz-Arab', 'pa-PK', 'ff-Adlm', 'dv', 'syr', 'nqo', 'sr-Latn', 'zh-Hant'];
  expect(byScript.map(directionOf)).toEqual([...Array(7).fill('rtl'), 'ltr', 'ltr']);
});

test('a tag is read in its canonical form (RFC 5646 4.5), and what is none is none', () => {
  expect(['EN', 'pt-br', 'zh-hant-tw', 'iw', 'de-CH-1996'].map(readLanguage)).toEqual([
    'en',
    'pt-BR',
    'zh-Hant-TW',
    'he',
    'de-CH-1996',
  ]);
  expect(['', 'e', 'english', 'en_GB', 'x'.repeat(36), 'en-', '1'].map(readLanguage)).toEqual(
    Array(7)
      .fill(null)
      .map((_, at) => (at === 2 ? 'english' : null)),
  );
  fc.assert(
    fc.property(fc.string({ maxLength: 40 }), (typed) => {
      const read = readLanguage(typed);
      if (read === null) return;
      // Canonical once, canonical for ever; and every platform function takes it.
      expect(readLanguage(read)).toBe(read);
      expect(languageName(read).length).toBeGreaterThan(0);
      expect(['ltr', 'rtl']).toContain(directionOf(read));
    }),
    { numRuns: 300 },
  );
});

// RFC 9110 12.5.4 and RFC 4647 3.3: by weight, the whole tag before its first subtag, a weight of nought is a refusal.
test.each([
  ['de', ['en', 'de'], 'de'],
  ['fr;q=0.2, de;q=0.9, en;q=0.5', ['en', 'de', 'fr'], 'de'],
  ['de;q=0, en;q=0.1', ['de', 'en'], 'en'],
  ['pt-PT', ['pt-BR', 'en'], 'pt-BR'],
  ['pt-PT', ['pt-BR', 'pt-PT'], 'pt-PT'],
  ['PT-pt', ['pt-BR', 'pt-PT'], 'pt-PT'],
  ['ja, *;q=0.1', ['en', 'de'], 'en'],
  ['', ['de', 'en'], 'de'],
  ['de;q=x, en', ['de', 'en'], 'en'],
  [`${'xx,'.repeat(5_000)}de`, ['en', 'de'], 'en'],
])('“%.40s” of %j is %s', (asked, among, language) => {
  expect(pickLanguage(null, asked, among)).toBe(language);
});

test('a card’s own language holds whatever a browser asks for; each of ours has a name in itself', () => {
  expect(pickLanguage('ar', 'de', ['en', 'de'])).toBe('ar');
  expect(OUR_LANGUAGES.map(languageName)).toEqual([
    'English',
    'Deutsch',
    'العربية',
    'Français',
    'Nederlands',
    'Español',
    'Italiano',
  ]);
  expect([0, 1, 2, 1_000].map((count) => plural(count, { one: '# card', other: '# cards' }))).toEqual([
    '0 cards',
    '1 card',
    '2 cards',
    '1,000 cards',
  ]);
});
