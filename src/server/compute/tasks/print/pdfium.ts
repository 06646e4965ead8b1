import { PDFiumLibrary, type PDFiumDocument } from '@hyzyla/pdfium';
import { Refusal } from '@/core/errors';

/** What a document says and shows on a page, by a reader that has nothing of ours in it. Places in points from the page's top left. */
export type PageMarks = {
  /** Of the page, in points. */
  width: number;
  text: string;
  letters: { x: number; y: number; width: number; height: number; points: number }[];
  /** Pixels an inch of its pictures. */
  dpi: number[];
};

/** The parts of the reader's module that its own wrapper does not hand on (PDFium's public headers fpdf_text.h and fpdf_edit.h). */
type Module = {
  HEAPU8: Uint8Array;
  wasmExports: { malloc: (bytes: number) => number; free: (at: number) => void };
} & Record<
  | '_FPDF_LoadPage'
  | '_FPDF_ClosePage'
  | '_FPDF_GetPageWidth'
  | '_FPDF_GetPageHeight'
  | '_FPDFText_LoadPage'
  | '_FPDFText_ClosePage'
  | '_FPDFText_CountChars'
  | '_FPDFText_GetUnicode'
  | '_FPDFText_GetCharBox'
  | '_FPDFText_GetFontSize'
  | '_FPDFText_GetMatrix'
  | '_FPDFPage_CountObjects'
  | '_FPDFPage_GetObject'
  | '_FPDFFormObj_CountObjects'
  | '_FPDFFormObj_GetObject'
  | '_FPDFPageObj_GetType'
  | '_FPDFPageObj_GetMatrix'
  | '_FPDFImageObj_GetImagePixelSize',
  (...given: number[]) => number
>;

let library: Promise<PDFiumLibrary> | null = null;

/** Opens a document. Errors: DESIGN_LOCKED, DESIGN_UNREADABLE. */
export async function openDocument(bytes: Buffer): Promise<PDFiumDocument> {
  library ??= PDFiumLibrary.init();
  return (await library).loadDocument(bytes).catch((error: unknown) => {
    // The library tells a password by a word in its message.
    const locked = error instanceof Error && /password/i.test(error.message);
    throw new Refusal({ code: locked ? 'DESIGN_LOCKED' : 'DESIGN_UNREADABLE' });
  });
}

/** Letters of a page that are looked at, and objects of it, those within others among them. */
const MOST_LETTERS = 20_000;
const MOST_OBJECTS = 20_000;
const DEEPEST = 12;
/** Kinds of objects (fpdfview.h). */
const [IMAGE, FORM] = [3, 5];

/** What stands on the only page of a document that was taken in. */
export async function marksOf(bytes: Buffer): Promise<PageMarks> {
  const document = await openDocument(bytes);
  const { module: m, documentIdx } = document as unknown as { module: Module; documentIdx: number };
  const text = document.getPage(0).getText();
  const page = m._FPDF_LoadPage(documentIdx, 0);
  const scratch = m.wasmExports.malloc(64);
  const view = () => new DataView(m.HEAPU8.buffer, scratch, 64);
  try {
    const height = m._FPDF_GetPageHeight(page);
    const width = m._FPDF_GetPageWidth(page);
    return {
      width,
      text,
      letters: lettersOn(m, page, scratch, view, height),
      dpi: resolutions(m, page, scratch, view),
    };
  } finally {
    m.wasmExports.free(scratch);
    m._FPDF_ClosePage(page);
    document.destroy();
  }
}

function lettersOn(m: Module, page: number, at: number, view: () => DataView, height: number): PageMarks['letters'] {
  const texts = m._FPDFText_LoadPage(page);
  const letters: PageMarks['letters'] = [];
  try {
    const count = Math.min(MOST_LETTERS, m._FPDFText_CountChars(texts));
    for (let each = 0; each < count; each += 1) {
      if (m._FPDFText_GetUnicode(texts, each) <= 32) continue;
      if (!m._FPDFText_GetCharBox(texts, each, at, at + 8, at + 16, at + 24)) continue;
      const [left, right, bottom, top] = [0, 8, 16, 24].map((from) => view().getFloat64(from, true)) as [
        number,
        number,
        number,
        number,
      ];
      const size = m._FPDFText_GetFontSize(texts, each);
      const [c, d] = m._FPDFText_GetMatrix(texts, each, at)
        ? [view().getFloat32(8, true), view().getFloat32(12, true)]
        : [0, 1];
      const points = size * Math.hypot(c, d);
      letters.push({ x: left, y: height - top, width: right - left, height: top - bottom, points });
    }
  } finally {
    m._FPDFText_ClosePage(texts);
  }
  return letters;
}

type Matrix = [a: number, b: number, c: number, d: number];
const times = ([a, b, c, d]: Matrix, [e, f, g, h]: Matrix): Matrix => [
  a * e + b * g,
  a * f + b * h,
  c * e + d * g,
  c * f + d * h,
];

function resolutions(m: Module, page: number, at: number, view: () => DataView): number[] {
  const found: number[] = [];
  let left = MOST_OBJECTS;
  const matrixOf = (object: number): Matrix => {
    if (!m._FPDFPageObj_GetMatrix(object, at)) return [1, 0, 0, 1];
    return [0, 4, 8, 12].map((from) => view().getFloat32(from, true)) as Matrix;
  };
  const look = (object: number, outer: Matrix, depth: number): void => {
    left -= 1;
    if (left < 0 || depth > DEEPEST) return;
    const kind = m._FPDFPageObj_GetType(object);
    const matrix = times(matrixOf(object), outer);
    if (kind === FORM) {
      const count = m._FPDFFormObj_CountObjects(object);
      for (let each = 0; each < count; each += 1) look(m._FPDFFormObj_GetObject(object, each), matrix, depth + 1);
    } else if (kind === IMAGE && m._FPDFImageObj_GetImagePixelSize(object, at, at + 4)) {
      const [a, b] = matrix;
      const points = Math.hypot(a, b);
      const across = view().getUint32(0, true);
      if (points > 0) found.push(across / (points / 72));
    }
  };
  const count = m._FPDFPage_CountObjects(page);
  for (let each = 0; each < count; each += 1) look(m._FPDFPage_GetObject(page, each), [1, 0, 0, 1], 0);
  return found;
}

/** A page of a document as pixels, red first, and how many of them a point has. */
export async function paintedPage(
  document: PDFiumDocument,
  at: number,
  { dpi, most }: { dpi: number; most: number },
): Promise<{ data: Uint8Array; width: number; height: number; scale: number }> {
  const page = document.getPage(at);
  const { originalWidth, originalHeight } = page.getOriginalSize();
  const scale = Math.min(dpi / 72, most / Math.max(originalWidth, originalHeight, 1));
  const { data, width, height } = await page.render({ scale, render: 'bitmap' });
  return { data, width, height, scale };
}
