import fc from 'fast-check';
import { Parser } from 'htmlparser2';
import { LETTERS } from '@/core/words';
import { wordsAbove, writeLetter, type LetterParts } from './index';

/** What a letter says as words, and where it leads, as a parser finds it that did not write it. */
function read(html: string): { words: string; links: string[]; tags: Set<string>; loads: string[] } {
  const found = { words: '', links: [] as string[], tags: new Set<string>(), loads: [] as string[] };
  let skips = 0;
  const parser = new Parser({
    onopentag(name, { href, src }) {
      found.tags.add(name);
      if (name === 'title' || name === 'style') skips += 1;
      if (href) found.links.push(href);
      if (src) found.loads.push(src);
    },
    ontext: (more) => (found.words += skips > 0 ? '' : more),
    onclosetag: (name) => {
      if (name === 'title' || name === 'style') skips -= 1;
      else if (name === 'p' || name === 'td') found.words += '\n';
    },
  });
  parser.end(html);
  return found;
}
const squeezed = (text: string) => text.replace(/\s+/g, '');

const text = fc
  .string({ unit: 'grapheme', minLength: 1, maxLength: 60 })
  .filter((each) => each.trim() !== '' && !/[\p{Cc}\ufffd]/u.test(each));
const parts: fc.Arbitrary<LetterParts> = fc.record({
  subject: text,
  greeting: text,
  paragraphs: fc.array(text, { maxLength: 3 }),
  act: fc.oneof(fc.constant(null), fc.record({ word: text, address: fc.webUrl() })),
  below: fc.array(text, { maxLength: 2 }),
  signed: text,
});

test('a letter says the same as text and as HTML, whatever stands in it, and leads to the one place that it names', () => {
  fc.assert(
    fc.property(parts, (of) => {
      const { text: plain, html } = writeLetter(of);
      const found = read(html);
      for (const said of [of.greeting, ...of.paragraphs, of.signed, ...of.below]) {
        expect(squeezed(found.words)).toContain(squeezed(said));
        expect(squeezed(plain)).toContain(squeezed(said));
      }
      expect(found.links).toEqual(of.act ? [of.act.address] : []);
      expect(found.loads).toEqual([]);
      expect(
        [...found.tags].filter(
          (tag) => !['html', 'head', 'meta', 'title', 'body', 'table', 'tr', 'td', 'p', 'a'].includes(tag),
        ),
      ).toEqual([]);
      if (of.act) expect(plain).toContain(of.act.address);
    }),
    { numRuns: 100 },
  );
});

test('letters of accounts are drawn by a word processor’s engine as they are meant (caniemail’s data), and say what to do in words', async () => {
  const { caniemail } = await import('caniemail');
  const link = 'https://studio.heath.example/confirm/abc';
  for (const each of [LETTERS.confirm(link), LETTERS.taken(link), LETTERS.password('Ilse', link)]) {
    const { html, text: plain } = writeLetter(each);
    const { issues } = caniemail({ clients: ['outlook.windows'], html } as Parameters<typeof caniemail>[0]);
    const lost = new Set([...issues.errors.values()].flat().map(({ title }) => title));
    // Without these it is broader, and says the same in the same order.
    for (const harmless of [
      'role attribute',
      'max-width property',
      'word-break property',
      'viewport meta',
      'lang attribute',
    ])
      lost.delete(harmless);
    expect([...lost].filter((title) => !/meta|viewport|color-scheme/i.test(title))).toEqual([]);
    expect(plain).toContain(link);
  }
});

test('own words above a fragment are words, and none leave no gap', () => {
  const below = { html: '<table></table>', text: 'Ilse' };
  const { html, text: plain } = wordsAbove('a <b> & "c"\nd', below);
  expect([read(html).words.trim(), read(html).tags.has('b'), plain]).toEqual([
    'a <b> & "c"d',
    false,
    'a <b> & "c"\nd\n\nIlse\n',
  ]);
  expect(wordsAbove('', below)).toEqual({ text: 'Ilse\n', html: expect.stringContaining('<body><table>') });
});
