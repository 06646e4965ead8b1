import { PDFDocument, PDFHeader, type PDFPage } from '@cantoo/pdf-lib';
import { squeeze } from '@/core/card';
import { findCodes } from '@/core/proof/scan';
import { behind, BLEED_MM, PAPERS, planSheet, POINTS_PER_MM, type SheetChoice, type SheetPlan } from '@/core/print';
import { codePrograms } from '../code/programs';
import { cutMarks, pageMatrix } from './document';
import { op } from './operators';
import type { SideSays } from './piece';
import { paintedPages } from './read';

/** A proven piece of one person: its file without crop marks where it goes on sheets, and what it says on each side. */
export type BoundPart = { pdf: Buffer; link: string; says: SideSays[] };

export type BindOrder = {
  parts: BoundPart[];
  /** Several on a sheet; null for one side a page. */
  sheet: SheetChoice | null;
  /** Trimmed, in millimetres. */
  width: number;
  height: number;
  title: string;
};

/** A bound file, and how many of its sides were found in it again, words and code. */
export type Bound = { pdf: Buffer; found: number; of: number };

/** A module is read from so many pixels; pages are painted at no fewer and no more dots an inch. */
const MODULE_PIXELS = 5;
const DPI = { least: 100, most: 300 } as const;

function dpiFor(pages: Paged): number {
  const finest = Math.min(...pages.flat().map(({ moduleMm }) => moduleMm ?? Infinity));
  return Math.min(DPI.most, Math.max(DPI.least, (MODULE_PIXELS / finest) * 25.4));
}

const began = async (title: string): Promise<PDFDocument> => {
  const document = await PDFDocument.create({ updateMetadata: false });
  document.setTitle(title);
  document.setProducer('Heathland');
  document.context.header = PDFHeader.forVersion(1, 6);
  return document;
};
const finished = async (document: PDFDocument): Promise<Buffer> =>
  Buffer.from(await document.save({ useObjectStreams: true }));

/** Binds the pieces of several people into one file, in their order, and reads it back: on each page the words and codes of whose it is. */
export async function bindPieces(order: BindOrder): Promise<Bound> {
  await codePrograms();
  const document = await began(order.title);
  const pages = order.sheet ? await onSheets(document, order, order.sheet) : await onPages(document, order);
  const pdf = await finished(document);
  const of = pages.reduce((sum, sides) => sum + sides.length, 0);
  const found = await foundOn(pdf, pages, dpiFor(pages));
  // Among many small codes a reader may overlook one: a finer look decides.
  return { pdf, of, found: found < of ? await foundOn(pdf, pages, DPI.most) : found };
}

/** How many sides are found on their pages, words and code, painted at so many dots an inch. */
async function foundOn(pdf: Buffer, pages: Paged, dpi: number): Promise<number> {
  let [at, found] = [0, 0];
  for await (const { text, grey } of paintedPages(pdf, dpi)) {
    const sides = pages[at] ?? [];
    at += 1;
    const said = squeeze(text);
    const coded = sides.some(({ moduleMm }) => moduleMm !== null);
    const codes = new Set(coded ? (await findCodes(grey, sides.length)).map((each) => each.text) : []);
    found += sides.filter(
      (side) =>
        side.texts.every((each) => said.includes(squeeze(each))) && (side.moduleMm === null || codes.has(side.link)),
    ).length;
  }
  return found;
}

/** What each page says. */
type Paged = (SideSays & { link: string })[][];

async function onPages(document: PDFDocument, { parts }: BindOrder): Promise<Paged> {
  const pages: Paged = [];
  for (const { pdf, link, says } of parts) {
    const from = await PDFDocument.load(pdf, { updateMetadata: false });
    for (const page of await document.copyPages(from, from.getPageIndices())) document.addPage(page);
    pages.push(...says.map((side) => [{ ...side, link }]));
  }
  return pages;
}

/** Sheets full of different people’s pieces, each one’s back behind their front. */
async function onSheets(document: PDFDocument, order: BindOrder, choice: SheetChoice): Promise<Paged> {
  const { parts, width, height } = order;
  const trim = { width, height };
  const plan = planSheet(choice, trim);
  const { places } = plan;
  const pages: Paged = [];
  for (let from = 0; places.length > 0 && from < parts.length; from += places.length) {
    const here = parts.slice(from, from + places.length);
    const sources = await Promise.all(here.map(({ pdf }) => PDFDocument.load(pdf, { updateMetadata: false })));
    const sides = Math.max(...here.map(({ says }) => says.length));
    for (let side = 0; side < sides; side += 1) {
      const cells = here.flatMap((part, at) => {
        const says = part.says[side];
        const place = side === 0 ? places[at]! : behind(places[at]!, trim, choice);
        return says ? [{ ...place, says: { ...says, link: part.link }, page: sources[at]!.getPage(side) }] : [];
      });
      await addSheet(document, choice, cells, { trim, plan });
      pages.push(cells.map(({ says }) => says));
    }
  }
  return pages;
}

type Size = { width: number; height: number };

async function addSheet(
  document: PDFDocument,
  { paper }: SheetChoice,
  cells: { x: number; y: number; page: PDFPage }[],
  { trim, plan }: { trim: Size; plan: SheetPlan },
): Promise<void> {
  const { width, height } = PAPERS[paper];
  const page = document.addPage([width * POINTS_PER_MM, height * POINTS_PER_MM]);
  // Neighbours leave each other a part of their bleed.
  const { bleed } = plan;
  const cutOff = BLEED_MM - bleed;
  const whole = { width: trim.width + 2 * bleed, height: trim.height + 2 * bleed };
  for (const cell of cells) {
    const box = {
      ...{ left: cutOff * POINTS_PER_MM, bottom: cutOff * POINTS_PER_MM },
      ...{ right: (cutOff + whole.width) * POINTS_PER_MM, top: (cutOff + whole.height) * POINTS_PER_MM },
    };
    const drawn = await document.embedPage(cell.page, box);
    page.drawPage(drawn, {
      ...{ x: (cell.x - bleed) * POINTS_PER_MM, y: (height - cell.y - trim.height - bleed) * POINTS_PER_MM },
      ...{ width: whole.width * POINTS_PER_MM, height: whole.height * POINTS_PER_MM },
    });
  }
  if (!plan.cut) return;
  const marks = cutMarks(
    cells.map(({ x, y }) => ({ x, y, side: { face: trim } })),
    { width, height, bleed },
  );
  const content = `q\n${op('cm', ...pageMatrix(0, 0, height))}${marks}Q\n`;
  page.node.addContentStream(document.context.register(document.context.flateStream(content)));
}

/** Joins bound files to one, page by page. */
export async function joinBound({
  files,
  title,
}: {
  files: Buffer[];
  title: string;
}): Promise<{ pdf: Buffer; pages: number }> {
  const document = await began(title);
  for (const file of files) {
    const from = await PDFDocument.load(file, { updateMetadata: false });
    for (const page of await document.copyPages(from, from.getPageIndices())) document.addPage(page);
  }
  return { pdf: await finished(document), pages: document.getPageCount() };
}
