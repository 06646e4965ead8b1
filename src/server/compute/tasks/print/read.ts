import { PDFDocument } from '@cantoo/pdf-lib';
import { POINTS_PER_MM } from '@/core/print';
import { pixelsPerMmFrom } from '@/core/qr';
import type { Grey } from '@/core/proof/scan';
import type { PrintedCode, ReadPrint, ReadSide } from '@/core/proof/print';
import { codePrograms } from '../code/programs';
import { codesIn, contrastIn } from '../read-picture';
import { openDocument, paintedPage } from './pdfium';
import { fontsOf, readContent, spotsOf, type PageContent } from './content';

/** Dots an inch that a side is painted at, where that is not too many pixels. */
const PAINTED_DPI = 300;
const MOST_PIXELS = 2_400;
/** Codes of one page that are looked for. */
const MOST_CODES = 40;
/** So far is arm's length, in millimetres: what a card's code is read from. */
const ARMS_LENGTH_MM = 250;

type Painted = { grey: Grey; scale: number; text: string };

/** Grey levels of pixels whose red comes first (ITU-R BT.601, 2.5.1), on white. */
function greyOf(pixels: Uint8Array, width: number, height: number): Grey {
  const data = new Uint8Array(width * height);
  // A pixel at a time: it is looked at a million times a side.
  const aligned = pixels.byteOffset % 4 === 0 ? pixels : pixels.slice();
  const words = new Uint32Array(aligned.buffer, aligned.byteOffset, data.length);
  for (let at = 0; at < data.length; at += 1) {
    const word = words[at]!;
    data[at] = (77 * (word & 255) + 150 * ((word >> 8) & 255) + 29 * ((word >> 16) & 255)) >> 8;
  }
  return { width, height, data };
}

/** Pages painted and searched by a reader that has nothing of ours in it (PDFium), one after the other: each is as large as a photo. */
export async function* paintedPages(bytes: Buffer, dpi = PAINTED_DPI): AsyncGenerator<Painted> {
  const document = await openDocument(bytes);
  try {
    for (let at = 0; at < document.getPageCount(); at += 1) {
      // Whatever is asked of a page closes it.
      const text = document.getPage(at).getText();
      const { data, width, height, scale } = await paintedPage(document, at, { dpi, most: MOST_PIXELS });
      yield { grey: greyOf(data, width, height), scale, text };
    }
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
  const pages = paintedPages(bytes);
  const sides: ReadSide[] = [];
  for (const [at, page] of document.getPages().entries()) {
    const [trim, bleed] = [page.getTrimBox(), page.getBleedBox()];
    const content = readContent(document, page);
    const { value } = await pages.next();
    const { grey, scale, text } = value as Painted;
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
      spots: spotsOf(document, page),
      codes: await codesOn(grey, { dotsPerMm, origin, distanceMm, within: looked(at) }),
    });
  }
  await pages.return(undefined);
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
const contrastsOf = ({ texts }: PageContent, grey: Grey, scale: number, height: number): number[] =>
  texts.flatMap(({ x, toX, y, size }) => {
    const [left, top, right, bottom] = [x, height - y - size * ABOVE, toX, height - y].map((each) => each * scale) as [
      number,
      number,
      number,
      number,
    ];
    return contrastIn(grey, { left, top, width: right - left, height: bottom - top }) ?? [];
  });

/** Around where a code is meant to be, it is looked for so far, in millimetres: one that was moved further is not there. */
const AROUND_MM = 6;

type Seen = { dotsPerMm: number; origin: { x: number; y: number }; distanceMm: number; within: ReturnType<Looked> };

/** The codes of a side, each given to two readers as a camera has it from where it is read. */
async function codesOn(grey: Grey, { dotsPerMm, origin, distanceMm, within }: Seen): Promise<PrintedCode[]> {
  const places = within?.map(({ x, y, width, height }) => ({
    ...{ left: (x + origin.x - AROUND_MM) * dotsPerMm, top: (y + origin.y - AROUND_MM) * dotsPerMm },
    ...{ width: (width + 2 * AROUND_MM) * dotsPerMm, height: (height + 2 * AROUND_MM) * dotsPerMm },
  })) ?? [{ left: 0, top: 0, width: grey.width, height: grey.height }];
  const share = Math.min(1, pixelsPerMmFrom(distanceMm) / dotsPerMm);
  // Painted straight at 300 dots an inch, a reader is a tenth of a millimetre off at most.
  const codes = await codesIn(grey, places, { most: MOST_CODES, share, exact: false });
  return codes.map(({ x, y, width, ...code }) => ({
    ...{ ...code, width: width / dotsPerMm },
    ...{ x: x / dotsPerMm - origin.x, y: y / dotsPerMm - origin.y },
  }));
}
