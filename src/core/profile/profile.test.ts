import fc from 'fast-check';
import { composeDraft, linesOn, type Composition } from '@/core/card';
import { withParameters } from '@/core/page';
import { shownValue } from '@/core/record';
import { anyCard } from '../../../tests/fixtures/any-card';
import { PROFILE_LIMITS, profileTexts, readParameters, seenElsewhere } from './index';

const plain = (text: string) =>
  text
    .normalize('NFKC')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();

function composed(record: Parameters<typeof composeDraft>[0], draft: Parameters<typeof composeDraft>[1]): Composition {
  const made = composeDraft(record, draft, 'GB');
  if (!made.ok) throw new Error(made.problem.code);
  return made.value;
}
const line = (id: string, kind: 'title' | 'organisation' | 'credential', text: string) => ({
  id,
  detail: {
    kind,
    id,
    label: '',
    preferred: false,
    ...(kind === 'organisation' ? { name: text, units: [] } : { text }),
  },
  ...{ label: '', on: ['page'], emphasis: 'plain', gap: false },
});
const about = (text: string) => ({ kind: 'about', id: 'a', on: true, before: false, title: '', text });
const card = (lines: unknown[], blocks: unknown[] = []) =>
  ({
    name: { prefix: '', given: 'Odile', additional: '', family: 'Brandreth', suffix: '', written: '' },
    ...{ lines, blocks, language: 'en', opens: { first: 'page' }, look: {}, further: {} },
  }) as unknown as Composition;

test('texts for a profile say who it is first, then what was written about them; no statement stands twice', () => {
  const long = `${'Piers, slips and sea walls. '.repeat(1)}I survey harbours in the North. No. 4 of 12 in Hythe was mine. Ask me about ${'old '.repeat(20)}walls.`;
  const { title, texts } = profileTexts(
    card(
      [
        line('t', 'title', 'Harbour surveyor'),
        line('o', 'organisation', 'Brandreth Surveys'),
        line('c', 'credential', 'FRICS'),
      ],
      [about(long)],
    ),
    'en',
  );
  expect(title.text).toBe('Odile Brandreth, Brandreth Surveys');
  expect(texts.map(({ text }) => text)).toEqual([
    'Harbour surveyor · FRICS · Piers, slips and sea walls.',
    `I survey harbours in the North. No. 4 of 12 in Hythe was mine.`,
    expect.stringMatching(/^Ask me about old /),
  ]);
});

test('of any card: each text within its length, of what stands on the page alone, and no two share a statement', () => {
  fc.assert(
    fc.property(anyCard, ({ record, draft }) => {
      const composition = composed(record, draft);
      const { title, texts } = profileTexts(composition, draft.language ?? 'en');
      expect([...title.text].length).toBeLessThanOrEqual(PROFILE_LIMITS.title);
      for (const { text, limit } of texts) expect([...text].length).toBeLessThanOrEqual(limit);
      const pieces = texts.flatMap(({ text }) => text.split(' · ').map(plain)).filter(Boolean);
      expect(new Set(pieces).size).toBe(pieces.length);
      // Ways to reach somebody stay with the card.
      for (const { detail } of linesOn(composition, 'page'))
        if (detail.kind === 'phone' || detail.kind === 'email')
          for (const { text } of texts) expect(text).not.toContain(shownValue(detail));
    }),
    { numRuns: 60 },
  );
});

// RFC 3986 3.4 and 3.5: a query begins with the first question mark and ends at the number sign.
test.each([
  ['https://heath.example/', 'source=card', 'https://heath.example/?source=card'],
  ['https://heath.example/a?b=1#c?d', 'source=card', 'https://heath.example/a?b=1&source=card#c?d'],
  ['https://heath.example/?', 'source=card', 'https://heath.example/?source=card'],
  ['tel:+442079460182', 'source=card', 'tel:+442079460182'],
  ['https://heath.example/', '', 'https://heath.example/'],
])('%s with “%s” is %s', (href, parameters, led) => {
  expect(withParameters(href, parameters)).toBe(led);
});

test('parameters are read by their names, and what would break out of a query is none', () => {
  const read = (typed: string) => {
    const made = readParameters(typed);
    return made.ok ? made.value : made.problem.code;
  };
  expect(['', ' ?source=card ', 'a=1&b=ä', '&a'].map(read)).toEqual(['', 'source=card', 'a=1&b=%C3%A4', 'a=']);
  expect(['=1', 'a=1#b', 'a=b c', `a=${'x'.repeat(200)}`].map(read)).toEqual(Array(4).fill('INPUT'));
  fc.assert(
    fc.property(fc.string({ maxLength: 60 }), (typed) => {
      const made = readParameters(typed);
      fc.pre(made.ok && made.value !== '');
      const led = new URL(withParameters('https://heath.example/a?b=1#c', made.ok ? made.value : ''));
      // WHATWG URL: the host, the path and the fragment are what they were.
      expect([led.host, led.pathname, led.hash, led.searchParams.get('b') !== null]).toEqual([
        'heath.example',
        '/a',
        '#c',
        true,
      ]);
      for (const [name, value] of new URLSearchParams(made.ok ? made.value : ''))
        expect(led.searchParams.getAll(name)).toContain(value);
    }),
  );
});

test('what another page sees is what the page says of itself: Open Graph first (ogp.me), else its title', () => {
  const head =
    '<title>A &amp; B</title><meta name="description" content="d"><meta property="og:title" content="O &#38; T"><meta name="robots" content="noindex, follow">';
  expect(seenElsewhere(`<html><head>${head}</head><body><svg><title>no</title></svg></body></html>`)).toEqual({
    ...{ title: 'O & T', description: 'd', image: '', imageAlt: '', address: '', hidden: true },
  });
  expect(seenElsewhere('<title>A &amp; B</title><svg><title>no</title></svg>').title).toBe('A & B');
});
