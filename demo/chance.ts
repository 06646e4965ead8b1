/** A small seeded generator (mulberry32, public domain), so that the demo is the same every time. */
export function chanceFrom(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), state | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296;
  };
}

/** A number of rare things when `mean` are expected (Knuth's method for the Poisson distribution). */
export function poisson(mean: number, chance: () => number): number {
  const limit = Math.exp(-mean);
  let count = 0;
  for (let product = chance(); product > limit; product *= chance()) count += 1;
  return count;
}
