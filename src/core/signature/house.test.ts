import fc from 'fast-check';
import { belowIn, faultOfStrip, leadsWell, stripAt, textIn, type HouseSignature, type Strip } from './house';

const strip = (more: Partial<Strip> = {}): Strip => ({
  ...{ id: 'days', text: 'Cable days', link: '', picture: null, starts: '2026-12-01', ends: '2026-12-24' },
  ...more,
});

test.each<[string, Partial<Strip>, ReturnType<typeof faultOfStrip>]>([
  ['whole', {}, null],
  ['of one day', { ends: '2026-12-01' }, null],
  ['over the end of a year', { ends: '2027-01-02' }, null],
  ['ending before it begins', { ends: '2026-11-30' }, 'backwards'],
  ['without words', { text: '  ' }, 'unfinished'],
  ['without a day', { starts: '' }, 'unfinished'],
  ['leading to a page', { link: 'HTTPS://tarnhope.example/days' }, null],
  ['running a program', { link: 'javascript:alert(1)' }, 'link'],
  ['leading to a file', { link: 'file:///etc/passwd' }, 'link'],
  ['with a blank in its address', { link: 'https://tarnhope.example/a b' }, 'link'],
  ['with an address on a second line', { link: 'https://tarnhope.example\njavascript:alert(1)' }, 'link'],
])('a strip %s', (_, more, fault) => {
  expect(faultOfStrip(strip(more))).toBe(fault);
  expect(leadsWell(strip(more))).toBe(fault !== 'link');
});

test('the strip that began last shows, within its days and at no other instant (property)', () => {
  const spans = fc.array(fc.record({ from: fc.integer({ min: 0, max: 50 }), long: fc.integer({ min: 0, max: 30 }) }), {
    maxLength: 6,
  });
  fc.assert(
    fc.property(spans, fc.integer({ min: -5, max: 90 }), (given, now) => {
      const strips = given.map(({ from, long }, at) => ({ at, from, until: from + long }));
      const shown = stripAt(strips, now);
      const open = strips.filter(({ from, until }) => from <= now && now < until);
      expect(shown === null).toBe(open.length === 0);
      if (!shown) return;
      expect(open).toContain(shown);
      for (const other of open) expect(shown.from).toBeGreaterThanOrEqual(other.from);
    }),
  );
});

// A language with a region falls back to the language (RFC 4647, 3.4: lookup), then to what is for all others.
test.each([
  ['de', 'Deutsch'],
  ['de-CH', 'Deutsch'],
  ['pt-BR', 'Brasil'],
  ['pt', 'Any'],
  ['fr', 'Any'],
])('what is said in %s', (language, said) => {
  expect(textIn({ de: ' Deutsch ', 'pt-BR': 'Brasil', any: 'Any' }, language)).toBe(said);
});

test('below a signature stand the legal line and then the disclaimer, and nothing where there is none', () => {
  const house = {
    legal: { any: 'Registered in England' },
    disclaimer: { de: 'Vertraulich' },
  } as unknown as HouseSignature;
  expect([belowIn(house, 'de'), belowIn(house, 'en'), belowIn(undefined, 'en')]).toEqual([
    ['Registered in England', 'Vertraulich'],
    ['Registered in England'],
    [],
  ]);
  expect(textIn({}, 'en')).toBe('');
});
