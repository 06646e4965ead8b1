import {
  concatTransformationMatrix,
  PDFDocument,
  PDFName,
  PDFNumber,
  PDFOperator,
  PDFOperatorNames,
  popGraphicsState,
  pushGraphicsState,
  type PDFContext,
  type PDFPage,
  type PDFRef,
} from '@cantoo/pdf-lib';
import type { Drawing, Shape } from '@/core/qr';

const POINTS_PER_MM = 72 / 25.4;

export type PdfOrder = {
  drawing: Drawing;
  widthMm: number;
  title: string;
  /** A colour of a print shop's own that the ink is printed in, by its name; `#RRGGBB` stands for it on screens. */
  spot: { name: string; ink: string } | null;
};

type Operands = Parameters<typeof PDFOperator.of>[1];
const operator = (name: PDFOperatorNames, ...operands: number[]) =>
  PDFOperator.of(name, operands.map((each) => PDFNumber.of(each)) as Operands);

const { AppendBezierCurve, ClosePath, FillEvenOdd, LineTo, MoveTo, NonStrokingColorCmyk, NonStrokingColorRgb } =
  PDFOperatorNames;

/** The operators of a path of M, H, V, L, C, Q and Z, those in small letters relative to where the last one ended (SVG 2, 9.3; ISO 32000-1, 8.5.2). */
function pathOperators(d: string): PDFOperator[] {
  const made: PDFOperator[] = [];
  let [x, y, startX, startY] = [0, 0, 0, 0];
  for (const [, command, rest] of d.matchAll(/([a-z])([^a-z]*)/gi)) {
    const kind = command!.toUpperCase();
    const [dx, dy] = kind === command ? [0, 0] : [x, y];
    const values = (rest!.match(/-?(?:\d+\.?\d*|\.\d+)/g) ?? []).map(Number);
    const point = (at: number): [number, number] => [values[at]! + dx, values[at + 1]! + dy];
    if (kind === 'Z') {
      made.push(operator(ClosePath));
      [x, y] = [startX, startY];
    } else if (kind === 'C') {
      const [one, other, to] = [point(0), point(2), point(4)];
      made.push(operator(AppendBezierCurve, ...one, ...other, ...to));
      [x, y] = to;
    } else if (kind === 'Q') {
      // A curve of one handle as one of two.
      const [[u, v], [toX, toY]] = [point(0), point(2)];
      const third = (from: number, handle: number) => from + ((handle - from) * 2) / 3;
      made.push(operator(AppendBezierCurve, third(x, u), third(y, v), third(toX, u), third(toY, v), toX, toY));
      [x, y] = [toX, toY];
    } else {
      [x, y] = kind === 'H' ? [values[0]! + dx, y] : kind === 'V' ? [x, values[0]! + dy] : point(0);
      if (kind === 'M') [startX, startY] = [x, y];
      made.push(operator(kind === 'M' ? MoveTo : LineTo, x, y));
    }
  }
  return made;
}

const partsOf = (hex: string): [number, number, number] => {
  const value = Number.parseInt(hex.slice(1), 16);
  return [(value >> 16) / 255, ((value >> 8) & 255) / 255, (value & 255) / 255];
};

/** Black as the black ink alone, so that edges stay sharp; other colours as red, green and blue. */
const colourOf = (hex: string): PDFOperator =>
  hex === '#000000' ? operator(NonStrokingColorCmyk, 0, 0, 0, 1) : operator(NonStrokingColorRgb, ...partsOf(hex));

/** What a page's content names: colour spaces, shadings and pictures. */
type Resources = {
  context: PDFContext;
  spaces: Record<string, PDFRef>;
  patterns: Record<string, PDFRef>;
  images: Record<string, PDFRef>;
};

/** A colour of its own plate, which looks on screens like its stand-in (ISO 32000-1, 8.6.6.4). */
function separation({ context }: Resources, { name, ink }: NonNullable<PdfOrder['spot']>): PDFRef {
  const tint = { FunctionType: 2, Domain: [0, 1], C0: [1, 1, 1], C1: partsOf(ink), N: 1 };
  return context.register(
    context.obj([PDFName.of('Separation'), PDFName.of(name), PDFName.of('DeviceRGB'), context.obj(tint)]),
  );
}

/** A gradient as a pattern, in the drawing's modules (ISO 32000-1, 8.7.4.5.3 and 8.7.4.5.4); `matrix` is the page's. */
function gradientPattern(
  { context }: Resources,
  paint: Exclude<Extract<Shape, { kind: 'path' }>['paint'], string>,
  side: number,
  matrix: number[],
): PDFRef {
  const outwards = paint.way === 'outwards';
  const half = side / 2;
  const shading = {
    ShadingType: outwards ? 3 : 2,
    ColorSpace: 'DeviceRGB',
    Coords: outwards ? [half, half, 0, half, half, half] : paint.way === 'down' ? [0, 0, 0, side] : [0, 0, side, 0],
    Function: { FunctionType: 2, Domain: [0, 1], C0: partsOf(paint.from), C1: partsOf(paint.to), N: 1 },
    Extend: [true, true],
  };
  return context.register(
    context.obj({ Type: 'Pattern', PatternType: 2, Shading: context.obj(shading), Matrix: matrix }),
  );
}

async function draw(page: PDFPage, document: PDFDocument, { drawing, widthMm, spot }: PdfOrder): Promise<void> {
  const { context } = document;
  const resources: Resources = { context, spaces: {}, patterns: {}, images: {} };
  const scale = (widthMm * POINTS_PER_MM) / drawing.width;
  // Modules from the top left, as the drawing has them.
  const matrix = [scale, 0, 0, -scale, 0, drawing.height * scale];
  const operators = [
    pushGraphicsState(),
    concatTransformationMatrix(...(matrix as [number, number, number, number, number, number])),
  ];
  if (spot) resources.spaces.Spot = separation(resources, spot);
  for (const [at, shape] of drawing.shapes.entries()) {
    operators.push(pushGraphicsState());
    if (shape.kind === 'picture') {
      const image = await document.embedPng(shape.href);
      resources.images[`P${at}`] = image.ref;
      operators.push(
        concatTransformationMatrix(shape.width, 0, 0, -shape.height, shape.x, shape.y + shape.height),
        PDFOperator.of(PDFOperatorNames.DrawObject, [PDFName.of(`P${at}`)]),
      );
    } else {
      if (typeof shape.paint !== 'string') {
        resources.patterns[`G${at}`] = gradientPattern(resources, shape.paint, drawing.width, matrix);
        operators.push(
          PDFOperator.of(PDFOperatorNames.NonStrokingColorspace, [PDFName.of('Pattern')]),
          PDFOperator.of(PDFOperatorNames.NonStrokingColorN, [PDFName.of(`G${at}`)]),
        );
      } else if (spot && shape.paint === spot.ink)
        operators.push(
          PDFOperator.of(PDFOperatorNames.NonStrokingColorspace, [PDFName.of('Spot')]),
          operator(PDFOperatorNames.NonStrokingColorN, 1),
        );
      else operators.push(colourOf(shape.paint));
      if (shape.scale) {
        // The sine and cosine of a quarter turn.
        const [along, turned] = shape.turn ? [0, (shape.turn / 90) * shape.scale] : [shape.scale, 0];
        operators.push(concatTransformationMatrix(along, turned, -turned, along, shape.x!, shape.y!));
      }
      operators.push(...pathOperators(shape.d), operator(FillEvenOdd));
    }
    operators.push(popGraphicsState());
  }
  operators.push(popGraphicsState());
  page.node.set(
    PDFName.of('Resources'),
    context.obj({ ColorSpace: resources.spaces, Pattern: resources.patterns, XObject: resources.images }),
  );
  page.pushOperators(...operators);
}

/** A code as a page of PDF that is as large as the code with its margin, in vectors; the same order gives the same bytes. */
export async function codePdf(order: PdfOrder): Promise<Buffer> {
  const document = await PDFDocument.create({ updateMetadata: false });
  document.setTitle(order.title);
  document.setProducer('Heathland');
  const { drawing, widthMm } = order;
  const width = widthMm * POINTS_PER_MM;
  const page = document.addPage([width, (width * drawing.height) / drawing.width]);
  await draw(page, document, order);
  return Buffer.from(await document.save({ useObjectStreams: false }));
}
