import fc from 'fast-check';
import { colourOf, contrast, hexOf, mix, readable, rgbOf, seen } from './contrast';

const anyHex = fc
  .integer({ min: 0, max: 0xffffff })
  .map((each) => `#${each.toString(16).padStart(6, '0')}`.toUpperCase());

test.each([
  // CSS Color Module Level 4, 10.2: sRGB primaries in OKLab, three decimals (from memory).
  ['#FFFFFF', 1, 0],
  ['#000000', 0, 0],
  ['#FF0000', 0.628, 0.258],
  ['#00FF00', 0.866, 0.295],
  ['#0000FF', 0.452, 0.313],
])('%s is as light and as strong in OKLab as CSS says', (hex, lightness, chroma) => {
  expect(seen(hex).lightness).toBeCloseTo(lightness, 3);
  expect(seen(hex).chroma).toBeCloseTo(chroma, 3);
});

test('every colour is itself again from OKLab and from its parts, and its contrast lies between 1 and 21', () => {
  fc.assert(
    fc.property(anyHex, anyHex, (a, b) => {
      expect(hexOf(rgbOf(a))).toBe(a);
      const again = rgbOf(colourOf(seen(a)));
      rgbOf(a).forEach((each, at) => expect(Math.abs(each - again[at]!)).toBeLessThanOrEqual(1.5 / 255));
      expect(contrast(a, b)).toBeGreaterThanOrEqual(1);
      expect(contrast(a, b)).toBeLessThanOrEqual(21);
      expect([mix(a, b, 0), mix(a, b, 1)]).toEqual([a, b]);
    }),
  );
});

test('a layer of half black over white is the middle grey of sRGB; what is no colour is black and breaks nothing', () => {
  expect(mix('#FFFFFF', '#000000', 0.5)).toBe('#808080');
  for (const wrong of ['', 'red', '#fff', '#12345g', '#1234567', 'javascript:1'])
    expect(rgbOf(wrong)).toEqual([0, 0, 0]);
});

test('a readable colour reads on every ground that any colour reads on, and keeps its hue where it can', () => {
  fc.assert(
    fc.property(anyHex, anyHex, (hex, ground) => {
      // Black or white has 4.58 at least on every ground: (1.05 / 0.05) ** 0.5, by the definition of contrast.
      expect(contrast(readable(hex, [ground], 4.5), ground)).toBeGreaterThanOrEqual(4.5);
    }),
  );
  const darker = readable('#3366FF', ['#FFFFFF'], 7);
  expect(Math.abs(seen(darker).hue - seen('#3366FF').hue)).toBeLessThan(0.05);
});
