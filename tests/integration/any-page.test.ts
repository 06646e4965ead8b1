import fc from 'fast-check';
import { HtmlValidate } from 'html-validate';
import { mf2 } from 'microformats-parser';
import { compose, saidIn, withheldFrom } from '@/core/card';
import { FACE_NAMES, FACE_SIZES, faceContent, faceSvg, layFace } from '@/core/face';
import { OUR_LANGUAGES } from '@/core/language';
import { renderPage } from '@/core/page';
import { CONTRAST, provePage } from '@/core/proof';
import { writtenName } from '@/core/record';
import { shippedTypesetter } from '@/server/fonts';
import { anyCard, blocksOf, marksOf, searched } from '../fixtures/any-card';

const card = fc
  .record({ made: anyCard, blocks: blocksOf, language: fc.constantFrom(...OUR_LANGUAGES) })
  .map(({ made: { record, draft }, blocks, language }) => {
    const dressed = { ...draft, blocks, language };
    const composed = compose(record, draft.lines, 'GB', language, dressed);
    if (!composed.ok) throw new Error(composed.problem.code);
    return { record, draft: dressed, language, composition: composed.value };
  });

const validator = new HtmlValidate({
  extends: ['html-validate:standard', 'html-validate:document'],
  // Matters of style; and our own heads are shorter than its taste for titles.
  rules: { 'long-title': 'off', 'doctype-style': 'off', 'no-inline-style': 'error' },
});

test('the page of any card, in any layout, language and with any blocks, is valid HTML, an h-card of its holder, and passes its proof', async () => {
  await fc.assert(
    fc.asyncProperty(card, async ({ record, draft, language, composition }) => {
      const html = renderPage(composition, {
        contactFile: '/c/any.vcf',
        taps: '/c/any/tap',
        photo: null,
        logo: null,
        canonical: 'https://cards.example/c/any',
        fileAt: (hash) => `/c/any/file-${hash}`,
        drawn: { picture: (format) => `/c/any/picture.${format}`, link: '/c/any/link.jpg' },
        language,
        now: Date.parse('2026-11-26T10:00:00Z'),
      });
      const { results } = await validator.validateString(html);
      expect(
        results.flatMap(({ messages }) => messages.map(({ message, line, column }) => `${line}:${column} ${message}`)),
      ).toEqual([]);
      const [item] = mf2(html, { baseUrl: 'https://cards.example/c/any' }).items;
      expect(item!.properties.name).toEqual([writtenName(composition.name)]);
      const withheld = withheldFrom(record, draft.lines, 'page', 'GB');
      const { checks } = provePage(html, null, saidIn(composition, language), withheld);
      expect(checks.filter(({ passed, name }) => !passed && name !== CONTRAST)).toEqual([]);
    }),
    { numRuns: 60 },
  );
});

test('no face of any card reaches over its edges or tells what the page does not; the picture of links tells nobody’s number', async () => {
  const typesetter = await shippedTypesetter();
  fc.assert(
    fc.property(card, fc.constantFrom(...FACE_NAMES), ({ record, draft, language, composition }, name) => {
      const reach = name === 'link' ? 'introduction' : 'lines';
      const content = faceContent(composition, language, { photo: null, logo: null }, reach);
      const face = layFace(composition.look, content, FACE_SIZES[name], typesetter);
      for (const each of face.items) {
        if (each.kind !== 'text') continue;
        const right = Math.max(...each.text.widths.map((width, at) => each.x + each.shifts[at]! + width));
        expect([each.says, each.x >= -0.01, right <= face.width + 0.01]).toEqual([each.says, true, true]);
        expect([each.says, each.y + each.text.height <= face.height + 0.01]).toEqual([each.says, true]);
      }
      const said = searched(
        `${faceSvg(face, typesetter, { photo: null, logo: null })} ${face.items.map((each) => (each.kind === 'text' ? each.says : '')).join(' ')}`,
      );
      const reachable = new Set(['phone', 'email', 'link', 'address']);
      const shown = new Set(
        draft.lines
          .filter(({ ticks }) => ticks.page)
          .flatMap(({ detail }) => marksOf(record.details.find(({ id }) => id === detail) ?? record.details[0]!)),
      );
      for (const detail of record.details)
        for (const mark of marksOf(detail))
          if (!shown.has(mark) || (name === 'link' && reachable.has(detail.kind)))
            expect([mark, said.includes(mark)]).toEqual([mark, false]);
    }),
    { numRuns: 80 },
  );
});
