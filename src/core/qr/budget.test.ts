import { readFileSync } from 'node:fs';
import { prepareZXingModule, readBarcodes } from 'zxing-wasm/reader';
import { belongings, budgetOf } from './budget';
import { guaranteed, layoutOf, LEVELS } from './tables';
import { symbolFor, type Symbol } from './index';

// The decoder would fetch its program from the network; it is given from the installed package instead.
const wasm = readFileSync(require.resolve('zxing-wasm/reader/zxing_reader.wasm'));
prepareZXingModule({
  overrides: { wasmBinary: wasm.buffer.slice(wasm.byteOffset, wasm.byteOffset + wasm.byteLength) as ArrayBuffer },
});

/** A sequence that is the same at every run (Park and Miller's generator). */
function chance(seed: number) {
  let state = seed;
  return (below: number): number => {
    state = (state * 48_271) % 2_147_483_647;
    return state % below;
  };
}

async function readBack({ size, dark }: Symbol): Promise<string> {
  const scale = 2;
  const side = (size + 8) * scale;
  const data = new Uint8ClampedArray(side * side * 4).fill(255);
  for (let y = 0; y < size * scale; y += 1)
    for (let x = 0; x < size * scale; x += 1)
      if (dark[Math.floor(y / scale) * size + Math.floor(x / scale)]) {
        const at = ((y + 4 * scale) * side + x + 4 * scale) * 4;
        data.fill(0, at, at + 3);
      }
  const image = { data, width: side, height: side, colorSpace: 'srgb' } as ImageData;
  const [found] = await readBarcodes(image, {
    ...{ formats: ['QRCode'], maxNumberOfSymbols: 1 },
    ...{ tryHarder: false, tryRotate: false, tryInvert: false, tryDownscale: false },
  });
  return found?.text ?? '';
}

/** The symbol with so many codewords of one block turned over, every module of them. */
function destroyed(symbol: Symbol, block: number, count: number, random: (below: number) => number): Symbol {
  const { codewords } = budgetOf(symbol, () => false).blocks[block]!;
  const places = new Set<number>();
  while (places.size < count) places.add(random(codewords));
  const of = belongings(symbol.version, symbol.level);
  const touches = (at: number) => of[at]?.block === block && places.has(of[at]!.place);
  // What is counted is what is destroyed.
  const { blocks } = budgetOf(symbol, (row, column) => touches(row * symbol.size + column));
  expect(blocks.map(({ touched }) => touched)).toEqual(blocks.map((_, at) => (at === block ? count : 0)));
  return { ...symbol, dark: symbol.dark.map((dark, at) => (touches(at) ? 1 - dark : dark)) };
}

test('of 500 codes of all levels and versions each reads with what is guaranteed destroyed in a block, and not beyond half its correction (zxing)', async () => {
  const random = chance(20_260_504);
  for (let at = 0; at < 500; at += 1) {
    // Each of the larger versions twice, the smaller ones, which cards have, the oftener.
    const version = at < 60 ? 11 + (at % 30) : 1 + (at % 10);
    const level = LEVELS[(at + Math.floor(at / 10)) % 4]!;
    const room = layoutOf(version, level).data - 3;
    const text = Array.from({ length: Math.max(1, room) }, () => String.fromCharCode(97 + random(26))).join('');
    const symbol = symbolFor(text, { version, level, mask: at % 8 });
    const { blocks } = layoutOf(version, level);
    const block = random(blocks);
    const reads = await readBack(destroyed(symbol, block, guaranteed(version, level), random));
    expect([version, level, block, reads === text]).toEqual([version, level, block, true]);
    const beyond = budgetOf(symbol, () => false).blocks[block]!.most + 1;
    const lost = await readBack(destroyed(symbol, block, beyond, random));
    expect([version, level, block, beyond, lost === text]).toEqual([version, level, block, beyond, false]);
  }
}, 240_000);

test('a mark in the middle costs codewords of every block; one over a finder costs what nothing mends', () => {
  const symbol = symbolFor('HTTPS://C.TARNHOPE.EXAMPLE/H/7K3M9QWD', { version: 7, level: 'H' });
  const middle = (reach: number) =>
    budgetOf(symbol, (row, column) => Math.max(Math.abs(row - 22), Math.abs(column - 22)) <= reach);
  // Five blocks share what lies beside each other, so that none is spent alone (ISO/IEC 18004, 7.6); the alignment pattern stands in the middle.
  const small = middle(4);
  expect(small.blocks).toHaveLength(5);
  expect(small.patterns).toBe(25);
  expect(small.blocks.every(({ touched }) => touched > 0 && touched <= small.tightest.touched)).toBe(true);
  expect(small.tightest.touched).toBeLessThan(small.tightest.guaranteed);
  const large = middle(12);
  expect(large.tightest.touched).toBeGreaterThan(large.tightest.most);
  expect(budgetOf(symbol, (row, column) => row < 7 && column < 7)).toMatchObject({
    patterns: 49,
    tightest: { touched: 0, guaranteed: 13, most: 13 },
  });
});
