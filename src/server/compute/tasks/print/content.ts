import {
  decodePDFRawStream,
  PDFArray,
  PDFDict,
  PDFName,
  PDFNumber,
  PDFRawStream,
  PDFRef,
  type PDFDocument,
  type PDFObject,
  type PDFPage,
} from '@cantoo/pdf-lib';
import { within, type Matrix } from './operators';

/** What the content of a page says, apart from how it was written: in points from the page's bottom left. */
export type PageContent = {
  /** Words at their place: from where to where their base line reaches, and the size of their type. */
  texts: { x: number; y: number; toX: number; size: number }[];
  pictures: { width: number; height: number; pixels: { width: number; height: number } }[];
};

/** Kinds of fonts that have a file (ISO 32000-1, tables 110 and 114): others are made of these, or drawn in the document itself. */
const WITH_FILE = new Set(['/Type1', '/MMType1', '/TrueType', '/CIDFontType0', '/CIDFontType2']);

/** Fonts of a file, and how many of them are in it. */
export function fontsOf(document: PDFDocument): { embedded: number; of: number } {
  const found = { embedded: 0, of: 0 };
  for (const [, object] of document.context.enumerateIndirectObjects()) {
    if (!(object instanceof PDFDict) || object.get(PDFName.of('Type'))?.toString() !== '/Font') continue;
    if (!WITH_FILE.has(object.get(PDFName.of('Subtype'))?.toString() ?? '')) continue;
    found.of += 1;
    const described = object.lookupMaybe(PDFName.of('FontDescriptor'), PDFDict);
    if (['FontFile', 'FontFile2', 'FontFile3'].some((name) => described?.has(PDFName.of(name)))) found.embedded += 1;
  }
  return found;
}

const IDENTITY: Matrix = [1, 0, 0, 1, 0, 0];
const TOKEN = /\/[^\s/[\]<>()]+|<[0-9a-fA-F\s]*>|\[|\]|[-+]?(?:\d+\.?\d*|\.\d+)|[A-Za-z'"*]+\d?\*?/g;

/** Advances of a font by code, in sizes; 1 of those that it does not tell. */
function widthsOf(document: PDFDocument, font: PDFDict): Map<number, number> {
  const descendants = document.context.lookup(font.get(PDFName.of('DescendantFonts')), PDFArray);
  const own = descendants.lookup(0, PDFDict).lookup(PDFName.of('W'), PDFArray);
  const widths = new Map<number, number>();
  for (let at = 0; at + 1 < own.size(); at += 2) {
    const first = own.lookup(at, PDFNumber).asNumber();
    const some = own.lookup(at + 1);
    if (some instanceof PDFArray)
      for (let each = 0; each < some.size(); each += 1)
        widths.set(first + each, some.lookup(each, PDFNumber).asNumber() / 1_000);
  }
  return widths;
}

function dictionaryOf(document: PDFDocument, page: PDFPage, kind: string): Map<string, PDFObject> {
  const resources = page.node.lookup(PDFName.of('Resources'), PDFDict);
  const named = resources.lookupMaybe(PDFName.of(kind), PDFDict);
  return new Map(
    (named?.entries() ?? []).map(([name, value]) => [
      name.asString(),
      (value instanceof PDFRef ? document.context.lookup(value) : value) as PDFObject,
    ]),
  );
}

/** Names of the spot colours that a page has plates for (ISO 32000-1, 8.6.6.4). */
export function spotsOf(document: PDFDocument, page: PDFPage): string[] {
  return [...dictionaryOf(document, page, 'ColorSpace').values()].flatMap((space) => {
    if (!(space instanceof PDFArray) || space.lookup(0)?.toString() !== '/Separation') return [];
    const name = space.lookup(1);
    return name instanceof PDFName ? [name.decodeText()] : [];
  });
}

function contentOf(document: PDFDocument, page: PDFPage): string {
  const contents = page.node.Contents();
  const streams =
    contents instanceof PDFArray ? Array.from({ length: contents.size() }, (_, at) => contents.lookup(at)) : [contents];
  return streams
    .map((stream) =>
      stream instanceof PDFRawStream ? Buffer.from(decodePDFRawStream(stream).decode()).toString('latin1') : '',
    )
    .join('\n');
}

/** Reads what a page shows out of its content (ISO 32000-1, 8.4.2, 9.4): places of words and pictures, and their sizes. */
export function readContent(document: PDFDocument, page: PDFPage): PageContent {
  const fonts = dictionaryOf(document, page, 'Font');
  const images = dictionaryOf(document, page, 'XObject');
  const widths = new Map<string, Map<number, number>>();
  const made: PageContent = { texts: [], pictures: [] };
  let operands: (string | number)[] = [];
  let state = { matrix: IDENTITY };
  const kept: { matrix: Matrix }[] = [];
  let text = { matrix: IDENTITY, font: '', size: 1 };
  const numbers = () => operands.filter((each): each is number => typeof each === 'number');

  function show() {
    const own = widths.get(text.font) ?? new Map<number, number>();
    let along = 0;
    for (const each of operands) {
      if (typeof each === 'number') along -= each / 1_000;
      else if (each.startsWith('<'))
        for (const [code] of each.matchAll(/[0-9a-f]{4}/gi)) along += own.get(Number.parseInt(code, 16)) ?? 1;
    }
    const [a, b, , d, x, y] = within(text.matrix, state.matrix);
    const [, , , , toX] = within([1, 0, 0, 1, along * text.size, 0], [a, b, 0, d, x, y]);
    made.texts.push({ x: Math.min(x, toX), y, toX: Math.max(x, toX), size: Math.abs(d) * text.size });
  }

  const operators: Record<string, () => void> = {
    q: () => kept.push({ ...state }),
    Q: () => (state = kept.pop() ?? state),
    cm: () => (state = { matrix: within(numbers() as unknown as Matrix, state.matrix) }),
    Tf: () => {
      const name = String(operands[0]);
      text = { ...text, font: name, size: Number(operands[1]) };
      const font = fonts.get(name);
      if (!widths.has(name) && font instanceof PDFDict) widths.set(name, widthsOf(document, font));
    },
    Tm: () => (text = { ...text, matrix: numbers() as unknown as Matrix }),
    TJ: show,
    Tj: show,
    Do: () => {
      const image = images.get(String(operands[0]));
      // Somebody's own design is read by another reader.
      if (!(image instanceof PDFRawStream) || image.dict.get(PDFName.of('Subtype')) === PDFName.of('Form')) return;
      const side = (name: string) => image.dict.lookup(PDFName.of(name), PDFNumber).asNumber();
      const [a, b, c, d] = state.matrix;
      made.pictures.push({
        ...{ width: Math.hypot(a, b), height: Math.hypot(c, d) },
        pixels: { width: side('Width'), height: side('Height') },
      });
    },
  };
  for (const [token] of contentOf(document, page).matchAll(TOKEN)) {
    if (/^[-+.\d]/.test(token)) operands.push(Number(token));
    else if (/^[/<]/.test(token)) operands.push(token);
    else if (token !== '[' && token !== ']') {
      operators[token]?.();
      operands = [];
    }
  }
  return made;
}
