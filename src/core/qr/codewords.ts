import type { Layout } from './tables';

/* Arithmetic of the field of 256 elements whose polynomial is x^8 + x^4 + x^3 + x^2 + 1 (ISO/IEC 18004, 7.5.2). */
const EXPONENTS = new Uint8Array(512);
const LOGARITHMS = new Uint8Array(256);
for (let at = 0, value = 1; at < 255; at += 1) {
  EXPONENTS[at] = EXPONENTS[at + 255] = value;
  LOGARITHMS[value] = at;
  value = (value << 1) ^ (value & 0x80 ? 0x11d : 0);
}
const product = (a: number, b: number): number => (a && b ? EXPONENTS[LOGARITHMS[a]! + LOGARITHMS[b]!]! : 0);

const generators = new Map<number, Uint8Array>();

/** Coefficients of the generator polynomial of a degree, the highest, which is one, left out (ISO/IEC 18004, annex A). */
function generatorOf(degree: number): Uint8Array {
  const known = generators.get(degree);
  if (known) return known;
  const made = new Uint8Array(degree);
  made[degree - 1] = 1;
  for (let root = 0; root < degree; root += 1)
    for (let at = 0; at < degree; at += 1)
      made[at] = product(made[at]!, EXPONENTS[root]!) ^ (at + 1 < degree ? made[at + 1]! : 0);
  generators.set(degree, made);
  return made;
}

/** The correction of one block: what is left of its data, divided by the generator (ISO/IEC 18004, 7.5.2). */
export function correctionOf(data: Uint8Array, count: number): Uint8Array {
  const generator = generatorOf(count);
  const left = new Uint8Array(count);
  for (const codeword of data) {
    const factor = codeword ^ left[0]!;
    left.copyWithin(0, 1);
    left[count - 1] = 0;
    for (let at = 0; at < count; at += 1) left[at]! ^= product(generator[at]!, factor);
  }
  return left;
}

/** Where a codeword of a symbol belongs: its block, and its place within that block, correction after data. */
export type Belongs = { block: number; place: number };

/**
 * The order in which codewords of blocks stand in a symbol: the first of each block, the second of each, data before correction; the shorter
 * blocks are passed over where they have none (ISO/IEC 18004, 7.6).
 */
export function interleaving({ blocks, shortBlocks, shortData, correction }: Layout): Belongs[] {
  const order: Belongs[] = [];
  for (let place = 0; place <= shortData; place += 1)
    for (let block = place < shortData ? 0 : shortBlocks; block < blocks; block += 1) order.push({ block, place });
  for (let at = 0; at < correction; at += 1)
    for (let block = 0; block < blocks; block += 1)
      order.push({ block, place: shortData + (block < shortBlocks ? 0 : 1) + at });
  return order;
}

/** Data with its correction, in the order in which a symbol has them. */
export function interleave(data: Uint8Array, layout: Layout): Uint8Array {
  let from = 0;
  const blocks = Array.from({ length: layout.blocks }, (_, block) => {
    const own = data.subarray(from, (from += layout.shortData + (block < layout.shortBlocks ? 0 : 1)));
    return Uint8Array.from([...own, ...correctionOf(own, layout.correction)]);
  });
  return Uint8Array.from(interleaving(layout), ({ block, place }) => blocks[block]![place]!);
}
