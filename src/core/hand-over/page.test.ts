import fc from 'fast-check';
import { Parser } from 'htmlparser2';
import { HAND_OVER } from '@/core/words';
import { handOverPage, type HandOver, type HeldCard, type HeldForm } from './index';

const svg = (id: string) => `<svg xmlns="http://www.w3.org/2000/svg"><title>code ${id}</title></svg>`;
const nasty = fc.oneof(
  fc.string({ unit: 'grapheme', maxLength: 40 }),
  fc.constantFrom(
    '</script><script>alert(1)</script>',
    '"><img src=x onerror=alert(1)>',
    '<!--',
    ']]>',
    '\u2028',
    "'; alert(1); '",
  ),
);
/** Words of ours, among which somebody's name stands. */
const FORM = 'title name reach note consent send thanks kept unreadable language'.split(' ');
const form = nasty.map((text) => Object.fromEntries(FORM.map((key) => [key, text])) as HeldForm);
const cards: fc.Arbitrary<HeldCard[]> = fc
  .array(fc.record({ name: nasty, audience: nasty, isPrivate: fc.boolean(), form }), { minLength: 1, maxLength: 4 })
  .map((made) =>
    made.map((each, at) => ({
      ...each,
      id: `card-${at}`,
      link: `https://c.example/h/${at}`,
      svg: svg(String(at)),
      at: {},
    })),
  );

/** Elements, buttons and the page's data, as a parser finds them. */
function read(html: string) {
  const found = {
    scripts: [] as Record<string, string>[],
    images: 0,
    buttons: [] as Record<string, string>[],
    data: '',
    title: '',
  };
  let inside: 'data' | 'svg title' | null = null;
  const parser = new Parser(
    {
      onopentag(name, attributes) {
        if (name === 'script') found.scripts.push(attributes);
        if (name === 'img') found.images += 1;
        if (name === 'button' && attributes['data-card']) found.buttons.push(attributes);
        if (name === 'script' && attributes.type === 'application/json') inside = 'data';
        if (name === 'title' && found.title === '' && html.includes('<svg')) inside = 'svg title';
      },
      ontext(more) {
        if (inside === 'data') found.data += more;
        if (inside === 'svg title' && more.startsWith('code ')) found.title = more;
      },
      onclosetag: () => (inside = null),
    },
    { xmlMode: false },
  );
  parser.end(html);
  return found;
}

test('whatever a card is called, the page that holds it up runs its own script alone, and its data reads back as it was', () => {
  fc.assert(
    fc.property(cards, nasty, (held, occasion) => {
      const of: HandOver = { cards: held, occasions: [{ id: 'o', name: occasion }], words: HAND_OVER };
      const found = read(handOverPage(of, { nonce: 'n0nce', script: '/hand-over/page.js' }));
      expect(found.images).toBe(0);
      expect(found.scripts.map(({ type, nonce, src }) => [type, nonce, src])).toEqual([
        ['application/json', undefined, undefined],
        [undefined, 'n0nce', '/hand-over/page.js'],
      ]);
      expect(JSON.parse(found.data)).toEqual(JSON.parse(JSON.stringify(of)));
      expect(found.buttons).toHaveLength(held.length);
    }),
    { numRuns: 100 },
  );
});

test('the code that stands there before any script runs is never a private card’s while there is another; private ones wear their colour', () => {
  fc.assert(
    fc.property(cards, (held) => {
      const html = handOverPage({ cards: held, occasions: [], words: HAND_OVER }, { nonce: 'n', script: 's' });
      const found = read(html);
      const first = held.find(({ isPrivate }) => !isPrivate) ?? held[0]!;
      expect(found.title).toBe(`code ${first.id.slice(5)}`);
      expect(
        found.buttons.filter((button) => button['aria-pressed'] === 'true').map((button) => button['data-card']),
      ).toEqual([first.id]);
      for (const { id, isPrivate } of held)
        expect(found.buttons.find((button) => button['data-card'] === id)?.class).toBe(
          isPrivate ? 'private' : undefined,
        );
    }),
  );
  // With nothing to hold up it says what to do.
  expect(handOverPage({ cards: [], occasions: [], words: HAND_OVER }, { nonce: 'n', script: 's' })).toContain(
    'No card is out yet',
  );
});
