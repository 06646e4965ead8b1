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
const PAINTED_DPI = 240;
const MOST_PIXELS = 2_400;
/** Codes of one page that are looked for. */
const MOST_CODES = 40;
/** So far is arm's length, in millimetres: what a card's code is read from. */
const ARMS_LENGTH_MM = 250;

type Painted = { grey: Grey; scale: number; text: string };

/** Grey levels of pixels whose blue comes first (ITU-R BT.601, 2.5.1), on white. */
function greyOf(pixels: Uint8Array, width: number, height: number): Grey {
  const data = new Uint8Array(width * height);
  for (let at = 0, from = 0; at < data.length; at += 1, from += 4)
    data[at] = (29 * pixels[from]! + 150 * pixels[from + 1]! + 77 * pixels[from + 2]!) >> 8;
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

/** Reads a printed file back from its bytes: `coded` are the sides that a code is looked for on, by their number, `distanceMm` how far it is read from. */
export async function readPrint(
  bytes: Buffer,
  coded: (side: number) => boolean = () => true,
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
      contrast: worstContrast(content, grey, scale, height),
      codes: coded(at) ? await codesIn(grey, dotsPerMm, origin, distanceMm) : [],
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

/** The weakest contrast within the box of any text: of its darkest parts with its lightest, as painted. */
function worstContrast({ texts }: PageContent, grey: Grey, scale: number, height: number): number {
  let worst = 21;
  for (const { x, toX, y, size } of texts) {
    const box = [x, height - y - size * ABOVE, toX, height - y].map((each) => Math.round(each * scale));
    const levels: number[] = [];
    for (let row = Math.max(0, box[1]!); row < Math.min(grey.height, box[3]!); row += 1)
      for (let column = Math.max(0, box[0]!); column < Math.min(grey.width, box[2]!); column += 1)
        levels.push(grey.data[row * grey.width + column]!);
    // A full stop alone says nothing.
    if (levels.length < 40) continue;
    levels.sort((a, b) => a - b);
    const at = (share: number) => {
      const level = levels[Math.min(levels.length - 1, Math.floor(levels.length * share))]! / 255;
      return hexOf([level, level, level]);
    };
    worst = Math.min(worst, contrast(at(0.02), at(0.98)));
  }
  return worst;
}

/** The codes of a side, each given to two readers as a camera has it from where it is read. */
async function codesIn(
  grey: Grey,
  dotsPerMm: number,
  origin: { x: number; y: number },
  distanceMm: number,
): Promise<PrintedCode[]> {
  const share = Math.min(1, pixelsPerMmFrom(distanceMm) / dotsPerMm);
  const codes: PrintedCode[] = [];
  for (const { text, corners, size } of await locate(grey, MOST_CODES)) {
    const [xs, ys] = [corners.map(([x]) => x), corners.map(([, y]) => y)];
    const side = Math.max(...xs) - Math.min(...xs);
    const around = Math.round((side / size) * 5);
    const seen = cut(grey, Math.min(...xs) - around, Math.min(...ys) - around, side + 2 * around);
    const small = shrunk(
      seen,
      Math.max(1, Math.round(seen.width * share)),
      Math.max(1, Math.round(seen.height * share)),
    );
    const read = await Promise.all([READ.zxing(small), READ.qr(small)]);
    codes.push({
      ...{ text, modules: size, width: side / dotsPerMm },
      x: Math.min(...xs) / dotsPerMm - origin.x,
      y: Math.min(...ys) / dotsPerMm - origin.y,
      readers: read.filter((each) => each === text).length,
    });
  }
  return codes;
}

function cut({ width, height, data }: Grey, left: number, top: number, side: number): Grey {
  const [x, y] = [Math.max(0, Math.floor(left)), Math.max(0, Math.floor(top))];
  const [w, h] = [Math.min(width - x, Math.ceil(side)), Math.min(height - y, Math.ceil(side))];
  const made = new Uint8Array(w * h);
  for (let row = 0; row < h; row += 1)
    made.set(data.subarray((y + row) * width + x, (y + row) * width + x + w), row * w);
  return { width: w, height: h, data: made };
}
