import fc from 'fast-check';
import { fillOf, op, pathOperators, within, type Matrix } from './operators';

const number = fc.integer({ min: -1_000, max: 1_000 }).map((each) => each / 10);
const point = fc.tuple(number, number);

/** Where a point of operators ends, read without anything of the writer's: the last two operands of each. */
const read = (made: string) =>
  made
    .trim()
    .split('\n')
    .map((line) => line.split(' '))
    .map((parts) => ({ name: parts.at(-1)!, values: parts.slice(0, -1).filter(Boolean).map(Number) }));

test('what is drawn relative to where the last one ended is the same as what is drawn absolutely (SVG 2, 9.3.2)', () => {
  fc.assert(
    fc.property(point, fc.array(point, { minLength: 1, maxLength: 6 }), ([x, y], steps) => {
      let [u, v] = [x, y];
      const absolute = steps.map(([dx, dy]) => {
        [u, v] = [u + dx, v + dy];
        return `L${u.toFixed(1)} ${v.toFixed(1)}`;
      });
      const [one, other] = [
        `M${x} ${y}${steps.map(([dx, dy]) => `l${dx} ${dy}`).join('')}Z`,
        `M${x} ${y}${absolute.join('')}Z`,
      ].map((d) => read(pathOperators(d)));
      expect(one!.map(({ name }) => name)).toEqual(other!.map(({ name }) => name));
      one!.forEach(({ values }, at) =>
        values.forEach((value, each) => expect(value).toBeCloseTo(other![at]!.values[each]!, 6)),
      );
    }),
  );
});

test('a curve of one handle is the same curve with two: its points on the way agree (PDF has no other, ISO 32000-1, 8.5.2.2)', () => {
  fc.assert(
    fc.property(point, point, point, fc.double({ min: 0, max: 1, noNaN: true }), (from, handle, to, t) => {
      const [, curve] = read(pathOperators(`M${from.join(' ')}Q${handle.join(' ')} ${to.join(' ')}`));
      expect(curve!.name).toBe('c');
      const [ax, ay, bx, by, cx, cy] = curve!.values as [number, number, number, number, number, number];
      // Bernstein's polynomials of the second and of the third degree.
      const second = (a: number, b: number, c: number) => (1 - t) ** 2 * a + 2 * t * (1 - t) * b + t ** 2 * c;
      const third = (a: number, b: number, c: number, d: number) =>
        (1 - t) ** 3 * a + 3 * t * (1 - t) ** 2 * b + 3 * t ** 2 * (1 - t) * c + t ** 3 * d;
      expect(third(from[0], ax, bx, cx)).toBeCloseTo(second(from[0], handle[0], to[0]), 3);
      expect(third(from[1], ay, by, cy)).toBeCloseTo(second(from[1], handle[1], to[1]), 3);
    }),
  );
});

test('lines along one axis and closed paths go on from where they ended', () => {
  expect(pathOperators('M1 2H5V7h-2v1z')).toBe('1 2 m\n5 2 l\n5 7 l\n3 7 l\n3 8 l\nh\n');
  // After Z the next relative step begins where the path began (SVG 2, 9.3.4).
  expect(pathOperators('M1 1L5 5Zl1 0')).toBe('1 1 m\n5 5 l\nh\n2 1 l\n');
});

test('one matrix within another takes a point through the inner one first (ISO 32000-1, 8.3.4)', () => {
  const through = ([a, b, c, d, e, f]: Matrix, [x, y]: readonly [number, number]) =>
    [a * x + c * y + e, b * x + d * y + f] as const;
  const matrix = fc.tuple(number, number, number, number, number, number) as fc.Arbitrary<Matrix>;
  fc.assert(
    fc.property(matrix, matrix, point, (inner, outer, at) => {
      const [x, y] = through(outer, through(inner, at));
      const [u, v] = through(within(inner, outer), at);
      expect(Math.abs(u - x)).toBeLessThan(1e-3);
      expect(Math.abs(v - y)).toBeLessThan(1e-3);
    }),
  );
});

test('black is the black ink alone, any other colour its red, green and blue; numbers have no needless digits', () => {
  expect(fillOf('#000000')).toBe('0 0 0 1 k\n');
  expect(fillOf('#FF8000')).toBe('1 0.502 0 rg\n');
  expect(op('re', 1 / 3, 2, -0.00001, 4)).toBe('0.3333 2 0 4 re\n');
});
