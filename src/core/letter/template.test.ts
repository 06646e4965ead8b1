import fc from 'fast-check';
import { fillTemplate, PLACES, type Place } from './template';

const NONE = Object.fromEntries(PLACES.map((place) => [place, ''])) as Record<Place, string>;
const FIRST = 'Hello[ {name}],\n\nit was good to meet you[ at {occasion}][ in {place}]. Here is my card.\n{me}';

// Common practice, no published source: nobody who gets a letter should see that something was missing in it.
test.each([
  [{}, 'Hello,\n\nit was good to meet you. Here is my card.\n'],
  [{ name: 'Ines' }, 'Hello Ines,\n\nit was good to meet you. Here is my card.\n'],
  [
    { name: ' Ines ', occasion: 'Cable Days', place: 'Hythe', me: 'Odile' },
    'Hello Ines,\n\nit was good to meet you at Cable Days in Hythe. Here is my card.\nOdile',
  ],
])('words read well whatever is empty: %j', (known, said) => {
  expect(fillTemplate(FIRST, { ...NONE, ...known })).toBe(said);
});

test('an empty value takes its blank along; what names nothing of ours stays as it was typed', () => {
  expect(fillTemplate('See you {occasion}, [sic] {else} [at {else}]', NONE)).toBe('See you, [sic] {else} [at {else}]');
});

test('a value is words: nothing in it is filled again or taken for a group', () => {
  fc.assert(
    fc.property(fc.string(), fc.constantFrom(...PLACES), (value, place) => {
      const said = fillTemplate(`<{${place}}>[<{${place}}>]`, { ...NONE, [place]: value });
      const own = value.trim();
      expect(said).toBe(own ? `<${own}><${own}>` : '<>');
    }),
  );
  expect(fillTemplate('{name}', { ...NONE, name: '[{me}] {me}', me: 'x' })).toBe('[{me}] {me}');
});

test('words without an end are filled at once: time grows with their length and not faster', () => {
  const long = '[{name} '.repeat(20_000);
  const began = performance.now();
  fillTemplate(long, { ...NONE, name: 'x' });
  fillTemplate(`${'['.repeat(50_000)}{name}`, NONE);
  expect(performance.now() - began).toBeLessThan(1_000);
});
