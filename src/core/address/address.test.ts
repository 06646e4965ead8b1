import fc from 'fast-check';
import { codeFrom, CODE_ALPHABET, readAddress, readCode, skeletonOf, suggestAddress } from './index';

describe('short addresses', () => {
  test.each([
    ['odile-clients', null],
    ['Odile-Clients ', null],
    ['оdile-clients', 'ADDRESS_FOREIGN_LETTERS'], // the first letter is Cyrillic (U+043E)
    ['müller', 'ADDRESS_FOREIGN_LETTERS'],
    ['admin', 'ADDRESS_RESERVED'],
    ['ab', 'ADDRESS_LENGTH'],
    ['a--b', 'ADDRESS_SHAPE'],
    ['../etc', 'ADDRESS_SHAPE'],
  ])('%s', (typed, code) => {
    const read = readAddress(typed);
    expect(read.ok ? null : read.problem.code).toBe(code);
  });

  test('what is suggested can be taken, whatever the name is written in, and suggests itself again (property)', () => {
    fc.assert(
      fc.property(
        fc.oneof(fc.string({ unit: 'grapheme' }), fc.constantFrom('About', 'card', 'API', 'Me', '安', '—')),
        (name) => {
          const suggested = suggestAddress(name);
          expect(readAddress(suggested)).toEqual({ ok: true, value: suggested });
          expect(suggestAddress(suggested)).toBe(suggested);
        },
      ),
    );
  });

  test('a foreign look-alike is told what was meant, and look-alikes within a to z share a skeleton', () => {
    expect(readAddress('оdilе')).toMatchObject({ problem: { suggestion: 'odile' } });
    expect(skeletonOf('odi1e')).toBe(skeletonOf('odile'));
    expect(suggestAddress('Jörg Müller-Lind')).toBe('jorg-muller-lind');
  });
});

test('hand-out codes are 8 letters of Crockford’s base 32 and read as people type them', () => {
  expect(CODE_ALPHABET).toHaveLength(32);
  expect(CODE_ALPHABET).not.toMatch(/[ILOU]/);
  expect(codeFrom(Uint8Array.from([0, 31, 32, 255, 1, 2, 3, 4]))).toBe('0Z0Z1234');
  expect(readCode('oz0z-i234')).toBe('0Z0Z1234');
  expect(readCode('0Z0Z123U')).toBeNull();
});
