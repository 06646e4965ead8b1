import { PDFName, type PDFContext, type PDFDocument, type PDFRef } from '@cantoo/pdf-lib';
import { inkOf, type Ink } from '@/core/look';
import type { Drawing, Shape } from '@/core/qr';
import { fillOf, op, partsOf, pathOperators, within, type Matrix } from './operators';

/** What a page's content names: colour spaces, shadings, pictures, typefaces, states of drawing. */
export type Resources = Record<'ColorSpace' | 'Pattern' | 'XObject' | 'Font' | 'ExtGState', Record<string, PDFRef>>;
export const noResources = (): Resources => ({ ColorSpace: {}, Pattern: {}, XObject: {}, Font: {}, ExtGState: {} });

/** A colour of a print shop's own that an ink is printed in, by its name; `#RRGGBB` stands for it on screens. */
export type Spot = { name: string; ink: string };

/** A colour of its own plate, which looks on screens like its stand-in (ISO 32000-1, 8.6.6.4). */
export function separation(context: PDFContext, { name, ink }: Spot): PDFRef {
  const tint = { FunctionType: 2, Domain: [0, 1], C0: [1, 1, 1], C1: partsOf(ink), N: 1 };
  return context.register(
    context.obj([PDFName.of('Separation'), PDFName.of(name), PDFName.of('DeviceRGB'), context.obj(tint)]),
  );
}

/** A brand's own colour on a plate of its own, which four inks stand for elsewhere (ISO 32000-1, 8.6.6.4). */
function inkSeparation(context: PDFContext, { spot, cmyk }: Ink): PDFRef {
  const tint = { FunctionType: 2, Domain: [0, 1], C0: [0, 0, 0, 0], C1: cmyk.map((each) => each / 100), N: 1 };
  return context.register(
    context.obj([PDFName.of('Separation'), PDFName.of(spot), PDFName.of('DeviceCMYK'), context.obj(tint)]),
  );
}

/** What fills with a colour on a page: by its ink where the brand has one for it, as a spot colour where it has that. */
export type Filling = (hex: string) => string;

/** The fillings of a document: each spot colour stands in it once, and in the resources of each page that shows it. */
export function fillings(context: PDFContext, inks: readonly Ink[]): (resources: Resources) => Filling {
  const spots = new Map<string, PDFRef>();
  return (resources) => (hex) => {
    const ink = inkOf(inks, hex);
    if (!ink) return fillOf(hex);
    if (!ink.spot) return op('k', ...ink.cmyk.map((each) => each / 100));
    const ref = spots.get(ink.spot) ?? inkSeparation(context, ink);
    spots.set(ink.spot, ref);
    const name = `Spot${[...spots.keys()].indexOf(ink.spot)}`;
    resources.ColorSpace[name] = ref;
    return op('cs', `/${name}`) + op('scn', 1);
  };
}

/** A gradient from one colour to another, along a line or outwards from its beginning (ISO 32000-1, 8.7.4.5.3 and 8.7.4.5.4); `matrix` takes its places to the page's own. */
export function gradient(
  context: PDFContext,
  { from, to, coords }: { from: string; to: string; coords: number[] },
  matrix: Matrix,
): PDFRef {
  const shading = {
    ShadingType: coords.length === 6 ? 3 : 2,
    ColorSpace: 'DeviceRGB',
    Coords: coords,
    Function: { FunctionType: 2, Domain: [0, 1], C0: partsOf(from), C1: partsOf(to), N: 1 },
    Extend: [true, true],
  };
  return context.register(
    context.obj({ Type: 'Pattern', PatternType: 2, Shading: context.obj(shading), Matrix: [...matrix] }),
  );
}

function coordsOf(way: Exclude<Extract<Shape, { kind: 'path' }>['paint'], string>['way'], side: number): number[] {
  const half = side / 2;
  if (way === 'outwards') return [half, half, 0, half, half, half];
  return way === 'down' ? [0, 0, 0, side] : [0, 0, side, 0];
}

/**
 * A code in vectors: operators in its own modules from the top left, which `matrix` takes to the page; what they name is put into
 * `resources`, under names that begin with `prefix`.
 */
export async function drawingOperators(
  document: PDFDocument,
  resources: Resources,
  {
    drawing,
    matrix,
    prefix,
    spot,
    fill = fillOf,
  }: { drawing: Drawing; matrix: Matrix; prefix: string; spot: Spot | null; fill?: Filling },
): Promise<string> {
  let made = '';
  if (spot) resources.ColorSpace.Spot ??= separation(document.context, spot);
  for (const [at, shape] of drawing.shapes.entries()) {
    made += 'q\n';
    if (shape.kind === 'picture') {
      const image = await document.embedPng(shape.href);
      resources.XObject[`${prefix}P${at}`] = image.ref;
      made +=
        op('cm', shape.width, 0, 0, -shape.height, shape.x, shape.y + shape.height) + op('Do', `/${prefix}P${at}`);
    } else {
      if (typeof shape.paint !== 'string') {
        const coords = coordsOf(shape.paint.way, drawing.width);
        resources.Pattern[`${prefix}G${at}`] = gradient(document.context, { ...shape.paint, coords }, matrix);
        made += op('cs', '/Pattern') + op('scn', `/${prefix}G${at}`);
      } else if (spot && shape.paint === spot.ink) made += op('cs', '/Spot') + op('scn', 1);
      else made += fill(shape.paint);
      if (shape.scale) {
        // The sine and cosine of a quarter turn.
        const [along, turned] = shape.turn ? [0, (shape.turn / 90) * shape.scale] : [shape.scale, 0];
        made += op('cm', along, turned, -turned, along, shape.x!, shape.y!);
      }
      made += pathOperators(shape.d) + op('f*');
    }
    made += 'Q\n';
  }
  return made;
}

/** A code at a place, in the space of `outer`, as wide as is said. */
export async function placedDrawing(
  document: PDFDocument,
  resources: Resources,
  {
    drawing,
    x,
    y,
    width,
    outer,
    prefix,
    fill,
  }: { drawing: Drawing; x: number; y: number; width: number; outer: Matrix; prefix: string; fill: Filling },
): Promise<string> {
  const scale = width / drawing.width;
  const own: Matrix = [scale, 0, 0, scale, x, y];
  const matrix = within(own, outer);
  const drawn = await drawingOperators(document, resources, { drawing, matrix, prefix, spot: null, fill });
  return `q\n${op('cm', ...own)}${drawn}Q\n`;
}
