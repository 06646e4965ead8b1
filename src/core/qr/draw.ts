import { findersPath, modulesPath } from './shapes';
import { PLAIN_STYLE, type CodeStyle, type Gradient, type Mark } from './style';
import type { Symbol } from './symbol';

/** Light modules around the symbol that every reader needs (ISO/IEC 18004, 4 modules); part of every download. */
export const QUIET_ZONE = 4;

/** The number of this way of drawing: what is printed is drawn again as it was, so that a change of the drawing gets a number of its own. */
export const DRAWING = 1;

/** Outlines of the words below a code, in units of their size: what a typesetter made of them, and how wide they are. */
export type Outlines = { d: string; width: number };

/** Degrees that words are turned by, clockwise. */
export type Turn = 0 | 90 | -90;

/** One thing of a drawing, in modules. Paths have M, H, V, L, C, Q and Z, absolute or, but for M and Q, relative, filled by the even-odd rule. */
export type Shape =
  | {
      kind: 'path';
      d: string;
      paint: string | (Gradient & { from: string });
      scale?: number;
      x?: number;
      y?: number;
      turn?: Turn;
    }
  | { kind: 'picture'; href: string; x: number; y: number; width: number; height: number };

/** A styled code before it is SVG, PDF or pixels: its sides in modules, quiet zone in; the square of the symbol begins at the top. */
export type Drawing = { width: number; height: number; shapes: Shape[]; ground: string | null };

/** Width of the band that words take outside the quiet zone, and of their letters, in modules by the side. */
const WORDS_BAND = 0.12;
const LETTERS = 0.075;

/** Modules of the band on each side where words stand along all edges: whole ones. */
const bandOf = (size: number, { words, around }: Pick<CodeStyle, 'words' | 'around'>): number =>
  around && words.trim() !== '' ? Math.ceil((size + 2 * QUIET_ZONE) * WORDS_BAND) : 0;

/** Modules across the whole of a styled code: the symbol, its margin, and words along its edges. */
export const sideOf = (size: number, style: Pick<CodeStyle, 'words' | 'around'> = PLAIN_STYLE): number =>
  size + 2 * QUIET_ZONE + 2 * bandOf(size, style);

/** The box of a mark with its clear zone, in modules from the symbol's corner: whole modules, in the middle. */
export function markBox(
  size: number,
  { percent, ratio }: Mark,
): { left: number; top: number; width: number; height: number } {
  const area = (size * size * percent) / 100;
  // Whole modules, odd as the symbol is, so that the box stands in the middle.
  const odd = (value: number) => Math.min(size - 16, Math.max(3, 2 * Math.round((value - 1) / 2) + 1));
  const [width, height] = [odd(Math.sqrt(area * ratio)), odd(Math.sqrt(area / ratio))];
  return { left: (size - width) / 2, top: (size - height) / 2, width, height };
}

/** Which modules a style leaves undrawn: those of the clear zone around its mark. */
export function coveredBy({ size }: { size: number }, { mark }: CodeStyle): (row: number, column: number) => boolean {
  if (!mark) return () => false;
  const { left, top, width, height } = markBox(size, mark);
  return (row, column) => row >= top && row < top + height && column >= left && column < left + width;
}

/** Between mark and modules, in modules on every side. */
const CLEAR = 0.5;

/** A symbol in its style. `words` are the outlines of the style's words, which are left out without them. */
export function drawCode(symbol: Symbol, style: CodeStyle, words: Outlines | null = null): Drawing {
  const inner = symbol.size + 2 * QUIET_ZONE;
  const band = words ? bandOf(symbol.size, style) : 0;
  const side = inner + 2 * band;
  const offset = QUIET_ZONE + band;
  const { gradient, mark } = style;
  const height = words && band === 0 ? side * (1 + WORDS_BAND) : side;
  const shapes: Shape[] = [];
  const inked = (placed: Placed): Shape => ({ kind: 'path', paint: style.finders ?? style.ink, ...placed });
  if (style.ground) shapes.push({ kind: 'path', d: `M0 0H${side}V${height}H0Z`, paint: style.ground });
  shapes.push(
    {
      kind: 'path',
      d: modulesPath(symbol, {
        shape: style.modules,
        fill: style.fill / 100,
        covered: mark ? coveredBy(symbol, style) : null,
        offset,
      }),
      paint: gradient ? { ...gradient, from: style.ink } : style.ink,
    },
    {
      kind: 'path',
      d: findersPath(symbol.size, style.finderShape, offset),
      paint: style.finders ?? style.ink,
    },
  );
  if (mark) {
    const box = markBox(symbol.size, mark);
    // The whole picture within its box, undistorted.
    const [most, tall] = [box.width - 2 * CLEAR, box.height - 2 * CLEAR];
    const [width, across] = most / tall > mark.ratio ? [tall * mark.ratio, tall] : [most, most / mark.ratio];
    shapes.push({
      ...{ kind: 'picture', href: mark.href, width, height: across },
      x: offset + box.left + (box.width - width) / 2,
      y: offset + box.top + (box.height - across) / 2,
    });
  }
  if (words && words.width > 0)
    shapes.push(...(band > 0 ? wordsAround(words, inner, band) : [wordsBelow(words, side)]).map(inked));
  return { width: side, height, shapes, ground: style.ground };
}

/** Words in their place, before they have a colour. */
type Placed = { d: string; scale: number; x: number; y: number; turn?: Turn };

function wordsBelow({ d, width }: Outlines, side: number): Placed {
  const scale = Math.min(side * LETTERS, (side - 2) / width);
  const y = side * (1 + WORDS_BAND) - (side * WORDS_BAND - scale * CAPITALS) / 2 - side * 0.02;
  return { d, scale, x: (side - width * scale) / 2, y };
}

/** Words along the four edges: above and below upright, read downwards on the right and upwards on the left. */
function wordsAround({ d, width }: Outlines, inner: number, band: number): Placed[] {
  const scale = Math.min(inner * LETTERS, inner / width);
  const side = inner + 2 * band;
  // From the outer edge to the foot of the letters, and to where they begin.
  const [foot, begin] = [(band + scale * CAPITALS) / 2, (side - width * scale) / 2];
  return [
    { d, scale, x: begin, y: foot },
    { d, scale, x: side - foot, y: begin, turn: 90 },
    { d, scale, x: begin, y: side - band + foot },
    { d, scale, x: foot, y: side - begin, turn: -90 },
  ];
}
/** Height of capital letters by their size (from memory; near enough to stand in the middle). */
const CAPITALS = 0.7;

const escaped = (text: string) => text.replace(/[&<>"]/g, (letter) => `&#${letter.charCodeAt(0)};`);

function gradientOf({ from, to, way }: Gradient & { from: string }, side: number): string {
  const stops = `<stop stop-color="${from}"/><stop offset="1" stop-color="${to}"/>`;
  if (way === 'outwards')
    return `<radialGradient id="g" gradientUnits="userSpaceOnUse" cx="${side / 2}" cy="${side / 2}" r="${side / 2}">${stops}</radialGradient>`;
  const [x2, y2] = way === 'down' ? [0, side] : [side, 0];
  return `<linearGradient id="g" gradientUnits="userSpaceOnUse" x1="0" y1="0" x2="${x2}" y2="${y2}">${stops}</linearGradient>`;
}

/**
 * A drawing as SVG, one module a user unit. `widthMm` sets the printed width in millimetres, margin included; `title` is read out.
 * Colours and pictures come out of a style that was checked (`qr/schema`).
 */
export function codeSvg(
  drawing: Drawing,
  { title, widthMm, pixels }: { title: string; widthMm?: number; pixels?: number },
): string {
  const { width, height } = drawing;
  const size = widthMm
    ? ` width="${widthMm}mm" height="${Math.round(((widthMm * height) / width) * 1_000) / 1_000}mm"`
    : pixels
      ? ` width="${pixels}" height="${Math.round((pixels * height) / width)}"`
      : '';
  let gradients = '';
  const body = drawing.shapes.map((shape) => {
    if (shape.kind === 'picture')
      return `<image href="${escaped(shape.href)}" x="${shape.x}" y="${shape.y}" width="${shape.width}" height="${shape.height}"/>`;
    const { paint, scale, turn } = shape;
    if (typeof paint !== 'string') gradients = `<defs>${gradientOf(paint, width)}</defs>`;
    const placed = scale
      ? ` transform="translate(${shape.x} ${shape.y})${turn ? ` rotate(${turn})` : ''} scale(${scale})"`
      : '';
    return `<path fill="${typeof paint === 'string' ? paint : 'url(#g)'}" fill-rule="evenodd"${placed} d="${shape.d}"/>`;
  });
  return (
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}"${size} role="img">` +
    `<title>${escaped(title)}</title>${gradients}${body.join('')}</svg>`
  );
}

/** A symbol as SVG in plain squares, quiet zone in; `colours` are `#RRGGBB`. */
export const drawSymbol = (
  symbol: Symbol,
  { colours, ...options }: { title: string; widthMm?: number; colours?: { ink: string; ground: string } },
): string => codeSvg(drawCode(symbol, { ...PLAIN_STYLE, ...colours }), options);
