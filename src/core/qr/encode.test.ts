import fc from 'fast-check';
import encodeQR from 'qr';
import decodeQR from 'qr/decode.js';
import { create } from 'qrcode';
import { correctionOf, interleaving } from './codewords';
import { alignmentCentres, guaranteed, layoutOf, LEVELS, sizeOf, type Level } from './tables';
import { bitsOf, segmentsOf } from './segments';
import { CODE_BYTES } from './room';
import { symbolFor, TooLong } from './symbol';

/*
 * Held against two encoders of the registry that have nothing in common with ours, `qrcode` and `qr`, module by module: the same text in the same
 * mode, version, level and mask makes one matrix only (ISO/IEC 18004).
 */
const WORDS: Record<Level, 'low' | 'medium' | 'quartile' | 'high'> = {
  L: 'low',
  M: 'medium',
  Q: 'quartile',
  H: 'high',
};
const VERSIONS = Array.from({ length: 40 }, (_, at) => at + 1);
const rows = (dark: ArrayLike<unknown>, size: number) =>
  Array.from({ length: size }, (_, row) =>
    Array.from({ length: size }, (__, at) => (dark[row * size + at] ? '#' : '.')).join(''),
  );
/** Letters that no mode packs tighter than bytes. */
const bytes = (length: number) => 'heath'.repeat(Math.ceil(length / 5)).slice(0, length);

const byQrcode = (text: string, level: Level, version: number, mask: number) => {
  const { modules } = create([{ data: Buffer.from(text), mode: 'byte' } as never], {
    errorCorrectionLevel: level,
    version,
    maskPattern: mask as never,
  });
  return rows(modules.data, modules.size);
};
const byQr = (text: string, level: Level, version: number, mask: number) => {
  const drawn = encodeQR(text, 'raw', { ecc: WORDS[level], version, mask: mask as never, border: 1, encoding: 'byte' });
  const inner = drawn.slice(1, -1).map((row) => row.slice(1, -1));
  return rows(inner.flat(), inner.length);
};

/** Points of the standard as it words them (ISO/IEC 18004, 7.8.3), a letter a module. */
function pointsAsWorded({ size, dark }: { size: number; dark: Uint8Array }): number {
  const rows = Array.from({ length: size }, (_, row) => dark.subarray(row * size, (row + 1) * size).join(''));
  const columns = rows.map((_, column) => rows.map((row) => row[column]).join(''));
  let points = 0;
  for (const line of [...rows, ...columns]) {
    for (const [run] of line.matchAll(/00000+|11111+/g)) points += 3 + run.length - 5;
    points += 40 * [...line.matchAll(/(?=10111010000|00001011101)/g)].length;
  }
  for (let row = 1; row < size; row += 1)
    for (let column = 1; column < size; column += 1)
      if (/^(0000|1111)$/.test(rows[row - 1]!.slice(column - 1, column + 1) + rows[row]!.slice(column - 1, column + 1)))
        points += 3;
  const share = (rows.join('').replace(/0/g, '').length * 100) / size ** 2;
  return points + 10 * Math.floor(Math.abs(share - 50) / 5);
}

test('of eight masks the one with the fewest points as the standard words them is taken, in every version', () => {
  for (let version = 1; version <= 40; version += 1) {
    const level = (['L', 'M', 'Q', 'H'] as const)[version % 4]!;
    const [taken, ...all] = [undefined, 0, 1, 2, 3, 4, 5, 6, 7].map((mask) =>
      symbolFor(`heath${version}`, { version, level, ...(mask === undefined ? {} : { mask }) }),
    );
    const points = all.map(pointsAsWorded);
    expect([version, taken!.mask]).toEqual([version, points.indexOf(Math.min(...points))]);
  }
});

test('every version at every level is the matrix of two other encoders, in a mask of its own each', () => {
  for (const version of VERSIONS)
    for (const [at, level] of LEVELS.entries()) {
      const mask = (version + 2 * at) % 8;
      // Half full, so that padding is compared as well.
      const text = bytes(Math.floor(layoutOf(version, level).data / 2));
      const ours = symbolFor(text, { version, level, mask });
      const drawn = rows(ours.dark, ours.size);
      expect([version, level, drawn]).toEqual([version, level, byQrcode(text, level, version, mask)]);
      expect([version, level, drawn]).toEqual([version, level, byQr(text, level, version, mask)]);
    }
});

test('what a symbol holds is what others hold, to the byte: one more needs the next version (ISO/IEC 18004, table 7)', () => {
  // The table's own figures of the smallest and the largest, in characters of each mode.
  for (const [version, level, digits, letters, inBytes] of [
    [1, 'L', 41, 25, 17],
    [1, 'H', 17, 10, 7],
    [9, 'M', 432, 262, 180],
    [10, 'M', 513, 311, 213],
    [26, 'Q', 1_804, 1_094, 751],
    [27, 'Q', 1_933, 1_172, 805],
    [40, 'L', 7_089, 4_296, 2_953],
    [40, 'H', 3_057, 1_852, 1_273],
  ] as const)
    for (const [unit, most] of [
      ['7', digits],
      ['H', letters],
      ['h', inBytes],
    ] as const) {
      expect([version, level, unit, symbolFor(unit.repeat(most), { level }).version]).toEqual([
        version,
        level,
        unit,
        version,
      ]);
      const more = () => symbolFor(unit.repeat(most + 1), { level }).version;
      if (version === 40) expect(more).toThrow(TooLong);
      else expect(more()).toBe(version + 1);
    }
  for (const version of VERSIONS.filter((each) => each < 12 || each % 4 === 0))
    for (const level of LEVELS) {
      const room = layoutOf(version, level).data - (version < 10 ? 2 : 3);
      const other = create([{ data: Buffer.from(bytes(room)), mode: 'byte' } as never], {
        errorCorrectionLevel: level,
      });
      expect([version, level, symbolFor(bytes(room), { level }).version]).toEqual([version, level, other.version]);
    }
});

test('alignment patterns stand where the standard lists them (ISO/IEC 18004, annex E)', () => {
  const listed: Record<number, number[]> = {
    1: [],
    2: [6, 18],
    6: [6, 34],
    7: [6, 22, 38],
    14: [6, 26, 46, 66],
    22: [6, 26, 50, 74, 98],
    32: [6, 34, 60, 86, 112, 138],
    36: [6, 24, 50, 76, 102, 128, 154],
    40: [6, 30, 58, 86, 114, 142, 170],
  };
  for (const [version, centres] of Object.entries(listed)) expect(alignmentCentres(Number(version))).toEqual(centres);
  expect(VERSIONS.every((version) => sizeOf(version) === 17 + 4 * version)).toBe(true);
});

test('correction is that of the standard’s own example, and what it guarantees is its table’s', () => {
  // ISO/IEC 18004, annex I: version 1-M, the digits 01234567.
  const data = Uint8Array.of(
    0x10,
    0x20,
    0x0c,
    0x56,
    0x61,
    0x80,
    0xec,
    0x11,
    0xec,
    0x11,
    0xec,
    0x11,
    0xec,
    0x11,
    0xec,
    0x11,
  );
  expect([...correctionOf(data, 10)]).toEqual([0xa5, 0x24, 0xd4, 0xc1, 0xed, 0x36, 0xc7, 0x87, 0x2c, 0x55]);
  expect(bitsOf(segmentsOf('01234567', 1), 1)).toBe(41);
  // ISO/IEC 18004, table 9, column r.
  for (const [version, level, most] of [
    [1, 'L', 2],
    [1, 'M', 4],
    [1, 'Q', 6],
    [1, 'H', 8],
    [2, 'L', 4],
    [3, 'L', 7],
    [5, 'Q', 9],
    [40, 'H', 15],
  ] as const)
    expect([version, level, guaranteed(version, level)]).toEqual([version, level, most]);
});

test('every codeword has one place in a block: as many as there are, shorter blocks first', () => {
  for (const version of VERSIONS)
    for (const level of LEVELS) {
      const layout = layoutOf(version, level);
      const order = interleaving(layout);
      expect(order).toHaveLength(layout.total);
      expect(new Set(order.map(({ block, place }) => `${block} ${place}`)).size).toBe(layout.total);
      const data = order.slice(0, layout.data);
      expect(data.every(({ block, place }) => place < layout.shortData + (block < layout.shortBlocks ? 0 : 1))).toBe(
        true,
      );
    }
});

test('segments take no larger version than another encoder’s best, and any text is read back as it is by a reader that is not ours', () => {
  const mixed = fc.string({
    unit: fc.oneof(
      fc.constantFrom(...'0123456789'),
      fc.constantFrom(...'ABCXYZ $%*+-./:'),
      fc.constantFrom(...'abcxyz,;?=&#'),
      fc.constantFrom('ü', 'ß', 'é', '日', '本', 'ع', 'ر', '🚡'),
    ),
    minLength: 1,
    maxLength: 60,
  });
  fc.assert(
    fc.property(mixed, (text) => {
      const symbol = symbolFor(text);
      // `qrcode` finds the shortest segments by paths in a graph; it writes no marker of UTF-8.
      if (/^[\0-\x7f]*$/.test(text))
        expect(symbol.version).toBeLessThanOrEqual(create(text, { errorCorrectionLevel: 'M' }).version);
      const scale = 4;
      const side = (symbol.size + 8) * scale;
      const data = new Uint8ClampedArray(side * side * 4).fill(255);
      symbol.dark.forEach((dark, at) => {
        if (!dark) return;
        const [row, column] = [Math.floor(at / symbol.size) + 4, (at % symbol.size) + 4];
        for (let y = row * scale; y < (row + 1) * scale; y += 1)
          for (let x = column * scale; x < (column + 1) * scale; x += 1)
            data.fill(0, (y * side + x) * 4, (y * side + x) * 4 + 3);
      });
      expect(decodeQR({ width: side, height: side, data: new Uint8Array(data.buffer) })).toBe(text);
    }),
    { numRuns: 80 },
  );
});

test('a level rises as far as it costs no version; half a character becomes what UTF-8 has for it; nothing is a symbol as well', () => {
  expect(symbolFor('HTTPS://C.EXAMPLE/H/7K3M9QWD')).toMatchObject({ version: 2, level: 'Q' });
  expect(symbolFor('7', 'L')).toMatchObject({ version: 1, level: 'H' });
  expect(symbolFor('')).toMatchObject({ version: 1, level: 'H' });
  expect(symbolFor('a\ud800b', { level: 'M', mask: 0 }).dark).toEqual(
    symbolFor('a\ufffdb', { level: 'M', mask: 0 }).dark,
  );
  expect(() => symbolFor('x'.repeat(3_000), 'L')).toThrow(TooLong);
  // Whatever has so many bytes fits, its marker included.
  expect(symbolFor('ü'.repeat(CODE_BYTES / 2))).toMatchObject({ version: 40, level: 'M' });
});
