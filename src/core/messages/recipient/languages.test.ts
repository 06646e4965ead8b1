import { OUR_LANGUAGES } from '@/core/language';
import { loadWords, wordsIn } from './index';

beforeAll(() => Promise.all(OUR_LANGUAGES.map((language) => loadWords(language))));

/** Every text of a language by its place. */
function texts(of: unknown, at = ''): [string, string][] {
  if (typeof of === 'string') return [[at, of]];
  return Object.entries(of as object).flatMap(([key, value]) => texts(value, `${at}/${key}`));
}
/** What several languages write alike (from memory of dictionaries): words of the trade, names of things, loans. */
const ALIKE = 200;

test('each language says everything, in its own letters and without a gap; what stands to be filled in stands there in all', () => {
  const english = new Map(texts(wordsIn('en')));
  for (const language of OUR_LANGUAGES) {
    const own = new Map(texts(wordsIn(language)));
    for (const [at, text] of own) {
      if (at === '/joint') continue;
      expect([language, at, text.trim() === text && text !== '' && !/ {2}|\.\.\./.test(text)]).toEqual([
        language,
        at,
        true,
      ]);
      const places = (said: string | undefined) => (said?.match(/\{\w+\}/g) ?? []).sort();
      if (english.has(at)) expect([language, at, places(text)]).toEqual([language, at, places(english.get(at))]);
    }
    for (const at of english.keys())
      if (!at.startsWith('/purposes')) expect([language, at, own.has(at)]).toEqual([language, at, true]);
  }
});

test('Arabic is written in Arabic letters (Unicode Script property), the others in Latin ones; no text was left in English', () => {
  const english = new Map(texts(wordsIn('en')));
  for (const language of OUR_LANGUAGES) {
    const own = texts(wordsIn(language)).filter(([at]) => at !== '/joint');
    const letters = own.filter(([, text]) =>
      language === 'ar' ? !/\p{Script=Arabic}/u.test(text) : /\p{Script=Arabic}/u.test(text),
    );
    // Names of techniques stay as they are.
    expect([language, letters.map(([, text]) => text).filter((text) => !/^[A-Z0-9 -]+$/.test(text))]).toEqual([
      language,
      [],
    ]);
    if (language === 'en') continue;
    const same = own.filter(([at, text]) => text.split(' ').length > 2 && english.get(at) === text);
    expect([language, same]).toEqual([language, []]);
    expect(own.length).toBeLessThan(english.size + ALIKE);
  }
});
