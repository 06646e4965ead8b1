import { PDFDocument } from '@cantoo/pdf-lib';
import { PDFiumLibrary } from '@hyzyla/pdfium';
import { contrast, hexOf } from '@/core/look';
import { POINTS_PER_MM } from '@/core/print';
import { pixelsPerMmFrom } from '@/core/qr';
import { locate, READ, shrunk, type Grey } from '@/core/proof/scan';
import type { PrintedCode, ReadPrint, ReadSide } from '@/core/proof/print';
import { codePrograms } from '../code/programs';
import { fontsOf, readContent, type PageContent } from './content';

/** Dots an inch that a side is painted at, where that is not too many pixels. */
const PAINTED_DPI = 300;
const MOST_PIXELS = 2_400;
/** Codes of one page that are looked for. */
const MOST_CODES = 40;
/** So far is arm's length, in millimetres: what a card's code is read from. */
const ARMS_LENGTH_MM = 250;

type Painted = { grey: Grey; scale: number; text: string };

/** Grey levels of pixels whose blue comes first (ITU-R BT.601, 2.5.1), on white. */
function greyOf(pixels: Uint8Array, width: number, height: number): Grey {
  const data = new Uint8Array(width * height);
  // A pixel at a time: it is looked at a million times a side.
  const words = new Uint32Array(Uint8Array.from(pixels).buffer);
  for (let at = 0; at < data.length; at += 1) {
    const word = words[at]!;
    data[at] = (29 * (word & 255) + 150 * ((word >> 8) & 255) + 77 * ((word >> 16) & 255)) >> 8;
  }
  return { width, height, data };
}

let library: Promise<PDFiumLibrary> | null = null;

/** Pages painted and searched by a reader that has nothing of ours in it (PDFium). */
async function painted(bytes: Buffer): Promise<Painted[]> {
  library ??= PDFiumLibrary.init();
  const document = await (await library).loadDocument(bytes);
  try {
    const pages: Painted[] = [];
    for (let at = 0; at < document.getPageCount(); at += 1) {
      // Whatever is asked of a page closes it.
      const text = document.getPage(at).getText();
      const page = document.getPage(at);
      const { originalWidth, originalHeight } = page.getOriginalSize();
      const scale = Math.min(PAINTED_DPI / 72, MOST_PIXELS / Math.max(originalWidth, originalHeight, 1));
      const { data, width, height } = await page.render({ scale, render: 'bitmap' });
      pages.push({ grey: greyOf(data, width, height), scale, text });
    }
    return pages;
  } finally {
    document.destroy();
  }
}

/** Where codes are looked for on a side, in millimetres from the trim's top left; null for everywhere. */
type Looked = (side: number) => { x: number; y: number; width: number; height: number }[] | null;

/** Reads a printed file back from its bytes; `distanceMm` is how far its codes are read from. */
export async function readPrint(
  bytes: Buffer,
  looked: Looked = () => null,
  distanceMm = ARMS_LENGTH_MM,
): Promise<ReadPrint> {
  await codePrograms();
  const document = await PDFDocument.load(bytes, { updateMetadata: false });
  const pages = await painted(bytes);
  const sides: ReadSide[] = [];
  for (const [at, page] of document.getPages().entries()) {
    const [trim, bleed] = [page.getTrimBox(), page.getBleedBox()];
    const content = readContent(document, page);
    const { grey, scale, text } = pages[at]!;
    const height = page.getHeight();
    const dotsPerMm = scale * POINTS_PER_MM;
    const origin = { x: trim.x / POINTS_PER_MM, y: (height - trim.y - trim.height) / POINTS_PER_MM };
    sides.push({
      trim: { width: trim.width / POINTS_PER_MM, height: trim.height / POINTS_PER_MM },
      bleedMm: Math.min(trim.x - bleed.x, trim.y - bleed.y) / POINTS_PER_MM,
      text,
      smallestPt: Math.min(...content.texts.map(({ size }) => size)),
      nearestMm: nearest(content, trim) / POINTS_PER_MM,
      dpi: content.pictures.map(({ width, pixels }) => pixels.width / (width / 72)),
      contrasts: contrastsOf(content, grey, scale, height),
      codes: await codesIn(grey, { dotsPerMm, origin, distanceMm, within: looked(at) }),
    });
  }
  return { sides, fonts: fontsOf(document) };
}

/** Between base line and the top of capitals, and below it to the foot of descenders, in sizes (common practice). */
const [ABOVE, BELOW] = [0.72, 0.2];

function nearest({ texts }: PageContent, trim: { x: number; y: number; width: number; height: number }): number {
  const edges = texts.flatMap(({ x, toX, y, size }) => [
    x - trim.x,
    trim.x + trim.width - toX,
    y - size * BELOW - trim.y,
    trim.y + trim.height - (y + size * ABOVE),
  ]);
  return Math.min(...edges);
}

/** The contrast within the box of each text: of its darkest parts with its lightest, as painted. */
function contrastsOf({ texts }: PageContent, grey: Grey, scale: number, height: number): number[] {
  const found: number[] = [];
  for (const { x, toX, y, size } of texts) {
    const box = [x, height - y - size * ABOVE, toX, height - y].map((each) => Math.round(each * scale));
    const levels = new Uint32Array(256);
    let count = 0;
    for (let row = Math.max(0, box[1]!); row < Math.min(grey.height, box[3]!); row += 1)
      for (let column = Math.max(0, box[0]!); column < Math.min(grey.width, box[2]!); column += 1) {
        levels[grey.data[row * grey.width + column]!]! += 1;
        count += 1;
      }
    // A full stop alone says nothing.
    if (count < 40) continue;
    const at = (share: number) => {
      let level = 0;
      for (let seen = levels[0]!; seen <= count * share && level < 255; seen += levels[level]!) level += 1;
      return hexOf([level / 255, level / 255, level / 255]);
    };
    found.push(contrast(at(0.02), at(0.98)));
  }
  return found;
}

/** Around where a code is meant to be, it is looked for so far, in millimetres: one that was moved further is not there. */
const AROUND_MM = 6;

type Seen = { dotsPerMm: number; origin: { x: number; y: number }; distanceMm: number; within: ReturnType<Looked> };

/** The codes of a side, each given to two readers as a camera has it from where it is read. */
async function codesIn(grey: Grey, { dotsPerMm, origin, distanceMm, within }: Seen): Promise<PrintedCode[]> {
  const share = Math.min(1, pixelsPerMmFrom(distanceMm) / dotsPerMm);
  const places = within?.map(({ x, y, width, height }) => ({
    ...{ left: (x + origin.x - AROUND_MM) * dotsPerMm, top: (y + origin.y - AROUND_MM) * dotsPerMm },
    ...{ width: (width + 2 * AROUND_MM) * dotsPerMm, height: (height + 2 * AROUND_MM) * dotsPerMm },
  })) ?? [{ left: 0, top: 0, width: grey.width, height: grey.height }];
  const codes: PrintedCode[] = [];
  for (const place of places) {
    const { picture, left, top } = cut(grey, place);
    for (const { text, corners, size } of await locate(picture, MOST_CODES)) {
      const [xs, ys] = [corners.map(([x]) => x), corners.map(([, y]) => y)];
      const [x, y] = [Math.min(...xs), Math.min(...ys)];
      const side = Math.max(...xs) - x;
      const around = Math.round((side / size) * 5);
      const whole = side + 2 * around;
      const seen = cut(picture, { left: x - around, top: y - around, width: whole, height: whole }).picture;
      const [across, down] = [seen.width, seen.height].map((each) => Math.max(1, Math.round(each * share)));
      const small = shrunk(seen, across!, down!);
      const read = await Promise.all([READ.zxing(small), READ.qr(small)]);
      codes.push({
        ...{ text, modules: size, width: side / dotsPerMm },
        x: (x + left) / dotsPerMm - origin.x,
        y: (y + top) / dotsPerMm - origin.y,
        readers: read.filter((each) => each === text).length,
      });
    }
  }
  return codes;
}

/** A part of a picture, and where in it that begins. */
function cut({ width, height, data }: Grey, box: { left: number; top: number; width: number; height: number }) {
  const [left, top] = [Math.max(0, Math.floor(box.left)), Math.max(0, Math.floor(box.top))];
  const across = Math.max(1, Math.min(width - left, Math.ceil(box.width)));
  const down = Math.max(1, Math.min(height - top, Math.ceil(box.height)));
  const made = new Uint8Array(across * down);
  for (let row = 0; row < down; row += 1) {
    const from = (top + row) * width + left;
    made.set(data.subarray(from, from + across), row * across);
  }
  return { picture: { width: across, height: down, data: made }, left, top };
}
