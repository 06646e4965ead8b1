import { createHash } from 'node:crypto';
import fc from 'fast-check';
import { Parser } from 'htmlparser2';
import { composeDraft, type Composition } from '@/core/card';
import { OUR_LANGUAGES } from '@/core/language';
import { anyCard, marksOf, searched } from '../../../tests/fixtures/any-card';
import { noticeHouse, noticeStyles, renderNotice } from './index';

/** What a notice holds, as a parser finds it. */
function read(html: string) {
  const found = {
    heading: '',
    styles: [] as string[],
    hrefs: [] as string[],
    scripts: 0,
    robots: '',
    language: '',
    direction: '',
  };
  let inside = '';
  const parser = new Parser({
    onopentag(name, { href, content, name: meta, lang, dir }) {
      inside = name;
      if (name === 'html') [found.language, found.direction] = [lang ?? '', dir ?? 'ltr'];
      if (name === 'script') found.scripts += 1;
      if (name === 'style') found.styles.push('');
      if (name === 'meta' && meta === 'robots') found.robots = content ?? '';
      if (name === 'a' && href) found.hrefs.push(href);
    },
    ontext(more) {
      if (inside === 'h1') found.heading += more;
      if (inside === 'style') found.styles[found.styles.length - 1] += more;
    },
    onclosetag: () => (inside = ''),
  });
  parser.end(html);
  return found;
}
const text = fc
  .string({ unit: 'grapheme', minLength: 1, maxLength: 60 })
  .filter((each) => each.trim() !== '' && !/[\p{Cc}]/u.test(each));
const sha256 = (each: string) => createHash('sha256').update(each).digest('base64');

test('whatever its holder has to say, a notice is words: no script, no listing, and styles that its policy names by their hash (CSP 3, 2.3.1)', () => {
  fc.assert(
    fc.property(text, text, text, fc.constantFrom(...OUR_LANGUAGES), (title, said, name, language) => {
      const html = renderNotice({ title, text: said, instead: { before: said, href: '/c/other', name }, language });
      const found = read(html);
      expect([found.heading, found.scripts, found.robots, found.language]).toEqual([title, 0, 'noindex', language]);
      expect(found.direction).toBe(language === 'ar' ? 'rtl' : 'ltr');
      expect(found.hrefs).toEqual(['/c/other']);
      const named = new Set(noticeStyles(null, language).map(sha256));
      expect(found.styles.filter((style) => !named.has(sha256(style)))).toEqual([]);
    }),
    { numRuns: 60 },
  );
});

test('of a card that rests nothing is said but the firm and the house’s own lines of the page', () => {
  fc.assert(
    fc.property(anyCard, fc.constantFrom(...OUR_LANGUAGES), ({ record, draft }, language) => {
      const made = composeDraft(record, draft, 'GB');
      if (!made.ok) throw new Error(made.problem.code);
      const composition: Composition = made.value;
      const house = composition.lines.filter((_, at) => at % 3 === 0).map(({ id }) => id);
      const html = renderNotice({
        title: 'x',
        text: 'y',
        house: noticeHouse(composition, house, null, language),
        language,
      });
      const shown = searched(html);
      for (const { id, detail, on } of composition.lines) {
        const may =
          (house.includes(id) && on.includes('page')) || (detail.kind === 'organisation' && on.includes('page'));
        if (!may)
          for (const mark of marksOf(detail)) expect([detail.kind, shown.includes(mark)]).toEqual([detail.kind, false]);
      }
      // Whose card it was is not said either.
      if (record.name.given !== record.name.family)
        expect(shown).not.toContain(`${record.name.given} ${record.name.family}`);
    }),
    { numRuns: 60 },
  );
});
