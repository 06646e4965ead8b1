import { scanRGBABuffer } from '@undecaf/zbar-wasm';
import decodeQR from 'qr/decode.js';
import { readBarcodes, type ReadResult } from 'zxing-wasm/reader';
import { rgbaOf, type Grey } from './grey';
import type { ReaderName } from './shape';

/** What a reader found: the text, or null. */
export type Read = (picture: Grey) => Promise<string | null>;

const asImage = (picture: Grey) =>
  ({ data: rgbaOf(picture), width: picture.width, height: picture.height, colorSpace: 'srgb' }) as ImageData;

/** As a phone looks at a picture of its camera: for one upright or turned code, dark on light. */
const AS_A_PHONE = {
  ...{ formats: ['QRCode' as const], maxNumberOfSymbols: 1 },
  ...{ tryHarder: true, tryRotate: false, tryInvert: false, tryDownscale: false },
};

const utf8 = new TextDecoder('utf-8');

export const READ: Record<ReaderName, Read> = {
  async zxing(picture) {
    const [found] = await readBarcodes(asImage(picture), AS_A_PHONE);
    return found?.isValid ? found.text : null;
  },
  async qr(picture) {
    try {
      return decodeQR({ width: picture.width, height: picture.height, data: rgbaOf(picture) });
    } catch {
      // Not found is told by throwing.
      return null;
    }
  },
  zbar: async (picture) => (await findByZbar(picture))[0]?.text ?? null,
};

/** The codes that zbar finds, each with the four points around it. */
export async function findByZbar(
  picture: Grey,
): Promise<{ text: string; points: (readonly [x: number, y: number])[] }[]> {
  const found = await scanRGBABuffer(rgbaOf(picture).buffer as ArrayBuffer, picture.width, picture.height);
  return found
    .filter(({ typeName, points }) => typeName === 'ZBAR_QRCODE' && points.length === 4)
    .map(({ data, points }) => ({
      text: utf8.decode(Uint8Array.from(data)),
      points: points.map(({ x, y }) => [x, y] as const),
    }));
}

/** How a picture is made black and white, in turn: by what is around each pixel, which photos need, and by the whole, which finds codes on coloured grounds. */
const WAYS = ['LocalAverage', 'GlobalHistogram', 'FixedThreshold'] as const;

/** The codes in a picture, however they stand, light on dark as well: those that the first way finds by which any is. */
export async function findCodes(picture: Grey, most: number): Promise<ReadResult[]> {
  const image = asImage(picture);
  for (const binarizer of WAYS) {
    const found = await readBarcodes(image, {
      ...{ formats: ['QRCode'], maxNumberOfSymbols: most, binarizer },
      ...{ tryHarder: true, tryRotate: true, tryInvert: true, tryDownscale: true },
    });
    if (found.length > 0) return found;
  }
  return [];
}
