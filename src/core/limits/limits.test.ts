import fc from 'fast-check';
import { LIMIT_REASONS, LIMITS, RATES, windowOf, type LimitName, type RateKind } from './index';

test('every limit is a whole number above nought, with a unit and a reason; no rate is without an end', () => {
  for (const name of Object.keys(LIMITS) as LimitName[]) {
    expect([name, Number.isSafeInteger(LIMITS[name]) && LIMITS[name] > 0]).toEqual([name, true]);
    const [unit, why] = LIMIT_REASONS[name];
    expect([name, unit.length > 2, why.length > 8]).toEqual([name, true, true]);
  }
  for (const [kind, { count, seconds, why }] of Object.entries(RATES))
    expect([
      kind,
      Number.isSafeInteger(count) && count > 0 && seconds > 0 && seconds <= 86_400,
      why.length > 8,
    ]).toEqual([kind, true, true]);
});

test('a window of a rate begins at a multiple of its length, holds the instant, and says when the next one begins', () => {
  const kinds = Object.keys(RATES) as RateKind[];
  fc.assert(
    fc.property(fc.constantFrom(...kinds), fc.integer({ min: 0, max: 4e12 }), (kind, now) => {
      const length = RATES[kind].seconds * 1_000;
      const { start, secondsLeft } = windowOf(kind, now);
      expect([start % length, start <= now, now < start + length]).toEqual([0, true, true]);
      expect([secondsLeft >= 1, secondsLeft <= RATES[kind].seconds]).toEqual([true, true]);
      // Whoever waits so long is in the next window.
      expect(windowOf(kind, now + secondsLeft * 1_000).start).toBe(start + length);
    }),
  );
});
