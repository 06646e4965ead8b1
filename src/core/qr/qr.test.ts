import jsQR from 'jsqr';
import encodeQR from 'qr';
import sharp from 'sharp';
import { readFileSync } from 'node:fs';
import { prepareZXingModule, readBarcodes } from 'zxing-wasm/reader';
import { drawSymbol, QUIET_ZONE, symbolFor } from './index';

// The decoder would fetch its program from the network; it is given from the installed package instead.
const wasm = readFileSync(require.resolve('zxing-wasm/reader/zxing_reader.wasm'));
prepareZXingModule({
  overrides: { wasmBinary: wasm.buffer.slice(wasm.byteOffset, wasm.byteOffset + wasm.byteLength) as ArrayBuffer },
});

const TEXTS = [
  'HTTPS://C.TARNHOPE.EXAMPLE/H/7K3M9QWD',
  'HTTP://127.0.0.1:4600/H/00000000',
  'https://cards.example/c/odile-clients?v=4.0',
];

async function pixels(text: string, scale: number) {
  const symbol = symbolFor(text);
  const side = (symbol.size + 2 * QUIET_ZONE) * scale;
  const svg = drawSymbol(symbol, { title: 'x' }).replace('<svg ', `<svg width="${side}" height="${side}" `);
  const { data, info } = await sharp(Buffer.from(svg)).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  return { data: new Uint8ClampedArray(data), width: info.width, height: info.height };
}

test.each(TEXTS)('two readers that did not draw it read %s at several scales', async (text) => {
  for (const scale of [3, 5, 8]) {
    const { data, width, height } = await pixels(text, scale);
    expect(jsQR(data, width, height)?.data).toBe(text);
    const found = await readBarcodes({ data, width, height, colorSpace: 'srgb' } as ImageData, { formats: ['QRCode'] });
    expect(found.map((code) => code.text)).toEqual([text]);
  }
});

test('the version is the one that another encoder chooses at the same level (ISO/IEC 18004)', () => {
  const levels = { L: 'low', M: 'medium', Q: 'quartile', H: 'high' } as const;
  for (const text of TEXTS) {
    const symbol = symbolFor(text);
    expect(symbol.size).toBe(encodeQR(text, 'raw', { ecc: levels[symbol.level], border: 1 }).length - 2);
    expect(symbol.size).toBe(17 + 4 * symbol.version); // ISO/IEC 18004, 6.3.2
  }
});

test('the drawing keeps the quiet zone of 4 modules light (ISO/IEC 18004)', async () => {
  const { data, width, height } = await pixels(TEXTS[0]!, 1);
  for (let y = 0; y < height; y += 1) {
    for (let x = 0; x < width; x += 1) {
      const inside = Math.min(x, y, width - 1 - x, height - 1 - y) >= QUIET_ZONE;
      if (!inside) expect(data[(y * width + x) * 4]).toBe(255);
    }
  }
});
