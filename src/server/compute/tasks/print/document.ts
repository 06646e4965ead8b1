import { readFileSync } from 'node:fs';
import { PDFDocument, PDFHeader, PDFName } from '@cantoo/pdf-lib';
import type { Face, Typesetter } from '@/core/face';
import type { Ink } from '@/core/look';
import { bled, BLEED_MM, POINTS_PER_MM } from '@/core/print';
import { trueTypeFile } from '@/server/fonts';
import { fillings, noResources, type Resources } from './drawing';
import { documentFonts } from './fonts';
import { op, type Matrix } from './operators';
import { paintFace, type Painter, type PrintPictures } from './paint';

/** Room for crop marks outside the bleed, their length and their distance from it, in millimetres (common practice). */
const MARKS = { room: 7, length: 5, thick: 0.088 } as const;

/** One side of a piece as it is printed; `owner` tells whose pictures they are. */
export type Side = { face: Face; pictures: PrintPictures; owner: string };

/** A cell of a sheet: where a side's trim begins, in millimetres from the sheet's top left. */
export type Cell = { side: Side; x: number; y: number };
export type Sheet = {
  width: number;
  height: number;
  cells: Cell[];
  /** What neighbours leave each other of their bleed. */
  bleed: number;
  /** Whether they are still to be cut apart. */
  cut: boolean;
};

export type PrintDocument = {
  /** A page that is one side with its bleed, TrimBox and BleedBox set (ISO 32000-1, 14.11.2). */
  addSide: (side: Side, marks: boolean) => Promise<void>;
  /** A sheet of several sides, with marks to cut by where they are to be cut. */
  addSheet: (sheet: Sheet) => Promise<void>;
  /** The finished file; nothing can be added any more. */
  finish: () => Promise<Buffer>;
};

/** A file for print: vectors, embedded typefaces, words that can be searched; the same pages give the same bytes; colours that a brand has `inks` for by those. No claim of PDF/X. */
export async function printDocument(
  title: string,
  typesetter: Typesetter,
  inks: readonly Ink[],
): Promise<PrintDocument> {
  const document = await PDFDocument.create({ updateMetadata: false });
  document.setTitle(title);
  document.setProducer('Heathland');
  document.context.header = PDFHeader.forVersion(1, 6);
  const read = (family: Parameters<typeof trueTypeFile>[0], weight: Parameters<typeof trueTypeFile>[1]) =>
    readFileSync(trueTypeFile(family, weight));
  const painter: Painter = {
    ...{ document, typesetter, pictures: new Map(), inks, fillings: fillings(document.context, inks) },
    fonts: documentFonts(document, typesetter, read),
  };

  function addPage(width: number, height: number, content: string, resources: Resources) {
    const page = document.addPage([width * POINTS_PER_MM, height * POINTS_PER_MM]);
    const { context } = document;
    page.node.set(PDFName.of('Resources'), context.obj(resources));
    page.node.set(PDFName.of('Contents'), context.register(context.flateStream(content)));
    return page;
  }

  async function addSide({ face, pictures, owner }: Side, marks: boolean) {
    const around = BLEED_MM + (marks ? MARKS.room : 0);
    const [width, height] = [face.width + 2 * around, face.height + 2 * around];
    const matrix = pageMatrix(around, around, height);
    const resources = noResources();
    const whole = bled(face);
    const drawn = await paintFace(painter, resources, whole, { pictures, owner, prefix: '', matrix });
    const cut = marks ? cropMarks(face) : '';
    const bleedBox = {
      x: -BLEED_MM,
      y: -BLEED_MM,
      width: face.width + 2 * BLEED_MM,
      height: face.height + 2 * BLEED_MM,
    };
    const page = addPage(width, height, `q\n${op('cm', ...matrix)}${clipped(bleedBox, drawn)}${cut}Q\n`, resources);
    const box = (from: number) =>
      [from, from, width - 2 * from, height - 2 * from].map((each) => each * POINTS_PER_MM) as [
        number,
        number,
        number,
        number,
      ];
    page.setTrimBox(...box(around));
    page.setBleedBox(...box(around - BLEED_MM));
  }

  async function addSheet({ width, height, cells, bleed, cut }: Sheet) {
    const resources = noResources();
    let content = '';
    for (const [at, { side, x, y }] of cells.entries()) {
      const { face, pictures, owner } = side;
      const matrix = pageMatrix(x, y, height);
      const drawn = await paintFace(painter, resources, bled(face), { pictures, owner, prefix: `s${at}_`, matrix });
      const room = { x: -bleed, y: -bleed, width: face.width + 2 * bleed, height: face.height + 2 * bleed };
      content += `q\n${op('cm', ...matrix)}${clipped(room, drawn)}Q\n`;
    }
    if (cut) content += `q\n${op('cm', ...pageMatrix(0, 0, height))}${cutMarks(cells, { width, height, bleed })}Q\n`;
    addPage(width, height, content, resources);
  }

  return {
    addSide,
    addSheet,
    finish: async () => {
      await painter.fonts.embed();
      return Buffer.from(await document.save({ useObjectStreams: true }));
    },
  };
}

/** From millimetres, downwards from a place of a page that is so high, to points upwards. */
export const pageMatrix = (x: number, y: number, height: number): Matrix => [
  POINTS_PER_MM,
  0,
  0,
  -POINTS_PER_MM,
  x * POINTS_PER_MM,
  (height - y) * POINTS_PER_MM,
];

const clipped = (
  { x, y, width, height }: { x: number; y: number; width: number; height: number },
  drawn: string,
): string => `q\n${op('re', x, y, width, height)}${op('W')}${op('n')}${drawn}Q\n`;

const BLACK = op('K', 0, 0, 0, 1) + op('w', MARKS.thick);
const line = (x: number, y: number, toX: number, toY: number): string => op('m', x, y) + op('l', toX, toY) + op('S');

/** Eight lines that say where to cut, outside the bleed. */
function cropMarks({ width, height }: Pick<Face, 'width' | 'height'>): string {
  const from = BLEED_MM + MARKS.room - MARKS.length;
  const to = BLEED_MM + MARKS.room;
  const upright = [0, width].flatMap((x) => [line(x, -to, x, -from), line(x, height + from, x, height + to)]);
  const lying = [0, height].flatMap((y) => [line(-to, y, -from, y), line(width + from, y, width + to, y)]);
  return BLACK + [...upright, ...lying].join('');
}

/** Lines at the edges of a sheet by which its cells are cut. */
export function cutMarks(
  cells: { side: { face: Pick<Face, 'width' | 'height'> }; x: number; y: number }[],
  { width, height, bleed }: { width: number; height: number; bleed: number },
): string {
  if (cells.length === 0) return '';
  const edges = (of: (cell: (typeof cells)[number]) => number[]) => [
    ...new Set(cells.flatMap(of).map((each) => Math.round(each * 1_000) / 1_000)),
  ];
  const [xs, ys] = [
    edges(({ x, side }) => [x, x + side.face.width]),
    edges(({ y, side }) => [y, y + side.face.height]),
  ];
  const [top, bottom] = [Math.min(...ys) - bleed, Math.max(...ys) + bleed];
  const [left, right] = [Math.min(...xs) - bleed, Math.max(...xs) + bleed];
  const upright = xs.flatMap((x) => [
    line(x, Math.max(0, top - 5), x, top - 1),
    line(x, bottom + 1, x, Math.min(height, bottom + 5)),
  ]);
  const lying = ys.flatMap((y) => [
    line(Math.max(0, left - 5), y, left - 1, y),
    line(right + 1, y, Math.min(width, right + 5), y),
  ]);
  return BLACK + [...upright, ...lying].join('');
}
