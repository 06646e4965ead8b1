import { CompositionSchema } from '@/core/card';
import { OUR_LANGUAGES } from '@/core/language';
import { languageFor, languagesAt } from './language';

const name = { prefix: '', given: 'Ilse', additional: '', family: 'Varrow', suffix: '', written: '' };
const said = { name, lines: [], blocks: [] };
/** A card in these languages, the first one its own; in none where the recipient's browser chooses. */
const inLanguages = (...languages: string[]) => ({
  composition: CompositionSchema.parse({
    ...said,
    language: languages[0] ?? null,
    further: Object.fromEntries(languages.slice(1).map((each) => [each, said])),
  }),
});
const asking = (header: string, query = '') => ({
  ...{ method: 'GET', path: '/c/ilse', body: '', address: '192.0.2.1' },
  query: new URLSearchParams(query),
  header: (of: string) => (of === 'accept-language' ? header : ''),
});

/** Headers as browsers send them, and what RFC 9110, 12.5.4 and RFC 4647, 3.4 (lookup) make of them. */
test.each([
  ['the one that is wanted most', ['en', 'de'], 'de;q=0.9, en;q=0.3', 'de'],
  ['the order of the header where nothing weighs', ['en', 'de'], 'de, en', 'de'],
  ['a region gives way to its language', ['en', 'de'], 'de-AT, en;q=0.5', 'de'],
  ['a wanted one that the card has not gives way to the next', ['en', 'de'], 'fr, de;q=0.8', 'de'],
  ['of none that it has the card’s first', ['de', 'en'], 'ar', 'de'],
  ['of nothing said the card’s first', ['de', 'en'], '', 'de'],
  ['a card in one language stays in it', ['de'], 'en', 'de'],
  ['a card in none follows the browser', [], 'nl-BE, nl;q=0.9', 'nl'],
  ['a header that is no header breaks nothing', ['en', 'de'], ';;,q=,de;q=x,\u0000', 'en'],
])('%s', (_, languages, header, wanted) => {
  expect(languageFor(inLanguages(...languages), asking(header))).toBe(wanted);
});

test('what is chosen on the page goes before what the browser asks for, and only what the card is in can be chosen', () => {
  const card = inLanguages('en', 'de');
  expect(languageFor(card, asking('en', 'lang=de'))).toBe('de');
  expect(languageFor(card, asking('de', 'lang=fr'))).toBe('de');
  expect(languageFor(card, asking('de', 'lang=__proto__'))).toBe('de');
  expect(languageFor(inLanguages(), asking('de', 'lang=en'))).toBe('de');
});

test('a page is drawn in the languages of its card, or in every one of ours where the browser chooses', () => {
  expect(languagesAt(inLanguages('de', 'ar'))).toEqual(['de', 'ar']);
  expect(languagesAt(inLanguages())).toBe(OUR_LANGUAGES);
});
