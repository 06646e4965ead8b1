import type { PDFDocument, PDFRef } from '@cantoo/pdf-lib';
import sharp from 'sharp';
import type { Face, FaceItem, SetGlyph, Typesetter } from '@/core/face';
import { contrast, inkOf, mix, type Ink } from '@/core/look';
import { gradient, placedDrawing, type Filling, type Resources } from './drawing';
import { embeddedPage } from './embedded-page';
import type { Fonts } from './fonts';
import { n, op, type Matrix } from './operators';

/** Bytes of the pictures that a face shows; one that is missing leaves its place empty. */
export type PrintPictures = {
  photo: Buffer | null;
  logo: Buffer | null;
  ground: Buffer | null;
  /** Somebody's own design of this side, as it was taken in. */
  artwork?: Buffer | null;
};

/** What paints the faces of one document: what several pages share stands in it once. */
export type Painter = {
  document: PDFDocument;
  typesetter: Typesetter;
  fonts: Fonts;
  pictures: Map<string, PDFRef>;
  inks: readonly Ink[];
  /** What fills on a page with these resources. */
  fillings: (resources: Resources) => Filling;
};

/** Pixels an inch that a picture is printed with, where it has as many. */
const DPI = 300;
/** Colours of words as near to black as this are printed as the black ink alone: of several inks the edges of small type blur (common practice). */
const NEARLY_BLACK = 1.6;

type Box = { x: number; y: number; width: number; height: number };
type Of<Kind extends FaceItem['kind']> = Extract<FaceItem, { kind: Kind }>;

const rectangle = ({ x, y, width, height }: Box): string => op('re', x, y, width, height);
/** Words in the ink that a brand has for their colour; without one nearly black ones are black. */
const inked = (colour: string, { fill, painter }: State): string =>
  !inkOf(painter.inks, colour) && contrast(colour, '#000000') <= NEARLY_BLACK ? fill('#000000') : fill(colour);

/**
 * The operators of a face, its places in millimetres from the top left of the trim; `matrix` takes them to the page. What they name is put
 * into `resources`; `prefix` tells one face on a page from another, `owner` one person's pictures from another's.
 */
export async function paintFace(
  painter: Painter,
  resources: Resources,
  face: Face,
  { pictures, owner, prefix, matrix }: { pictures: PrintPictures; owner: string; prefix: string; matrix: Matrix },
): Promise<string> {
  let made = '';
  const fill = painter.fillings(resources);
  const state = { painter, resources, pictures, owner, matrix, fill };
  for (const [at, item] of face.items.entries()) {
    const name = `${prefix}${at}`;
    if (item.kind === 'text') made += words(item, state);
    else if (item.kind === 'code') {
      const { x, y, width, drawing } = item;
      made += await placedDrawing(painter.document, resources, {
        drawing,
        x,
        y,
        width,
        outer: matrix,
        prefix: `C${name}`,
        fill,
      });
    } else if (item.kind === 'picture') made += await picture(item, name, state);
    else if (item.kind === 'artwork') made += await artwork(item, name, state);
    else if (item.kind === 'band') made += await band(item, name, state);
    else made += fill(item.colour) + rectangle(item) + op('f');
  }
  return made;
}

type State = {
  painter: Painter;
  resources: Resources;
  pictures: PrintPictures;
  owner: string;
  matrix: Matrix;
  fill: Filling;
};

/** Words by their glyphs: a line of one typeface is one text, its letters moved as they were set. */
function words(item: Of<'text'>, state: State): string {
  const { painter, resources } = state;
  const { text, shifts, colour, x, y } = item;
  const { size } = text;
  let made = op('BT') + inked(colour, state);
  let last: { glyph: SetGlyph; line: number; to: number } | null = null;
  let open = false;
  const close = () => {
    if (open) made += '] TJ\n';
    open = false;
  };
  text.glyphs.forEach((glyph, at) => {
    const line = text.lineOf[at]!;
    const left = x + glyph.x + shifts[line]!;
    const same =
      last !== null &&
      last.line === line &&
      last.glyph.family === glyph.family &&
      last.glyph.weight === glyph.weight &&
      Math.abs(last.glyph.y - glyph.y) < 0.000_1;
    const code = painter.fonts.code(glyph);
    if (same && last) {
      // How far it stands from where the last one's width would put it, backwards, in thousandths of the size.
      const moved = Math.round(((last.to - left) / size) * 1_000);
      made += moved === 0 ? `<${code}>` : `${moved}<${code}>`;
    } else {
      close();
      const font = painter.fonts.use(glyph);
      resources.Font[font.name] = font.ref;
      made += op('Tf', `/${font.name}`, 1) + op('Tm', size, 0, 0, -size, left, y + glyph.y) + `[<${code}>`;
      open = true;
    }
    // Where a reader of the file will stand after it: by the widths that it is told, which are whole thousandths.
    const told = Math.round(painter.typesetter.advance(glyph) * 1_000) / 1_000;
    const from: number = same && last ? last.to - (Math.round(((last.to - left) / size) * 1_000) / 1_000) * size : left;
    last = { glyph, line, to: from + told * size };
  });
  close();
  return made + op('ET');
}

/** Four curves that make a quarter of a circle each (common practice: 0.5523 of the radius). */
const ROUND = 0.552_284_75;

function outline({ x, y, width, height }: Box, corner: number): string {
  if (corner <= 0) return rectangle({ x, y, width, height });
  const r = Math.min(corner, width / 2, height / 2);
  const h = r * (1 - ROUND);
  const [right, bottom] = [x + width, y + height];
  return (
    op('m', x + r, y) +
    op('l', right - r, y) +
    op('c', right - h, y, right, y + h, right, y + r) +
    op('l', right, bottom - r) +
    op('c', right, bottom - h, right - h, bottom, right - r, bottom) +
    op('l', x + r, bottom) +
    op('c', x + h, bottom, x, bottom - h, x, bottom - r) +
    op('l', x, y + r) +
    op('c', x, y + h, x + h, y, x + r, y) +
    op('h')
  );
}

/** An embedded picture at a place, clipped; PDF draws pictures upwards. */
const drawn = (name: string, box: Box, clip: string): string =>
  `q\n${clip}${clip ? op('W') + op('n') : ''}${op('cm', box.width, 0, 0, -box.height, box.x, box.y + box.height)}${op('Do', `/${name}`)}Q\n`;

async function embedded(
  { painter: { document, pictures } }: State,
  key: string,
  make: () => Promise<{ bytes: Buffer; jpeg: boolean }>,
): Promise<PDFRef> {
  const known = pictures.get(key);
  if (known) return known;
  const { bytes, jpeg } = await make();
  const image = jpeg ? await document.embedJpg(bytes) : await document.embedPng(bytes);
  await image.embed();
  pictures.set(key, image.ref);
  return image.ref;
}

const pixels = (mm: number): number => Math.max(1, Math.round((mm / 25.4) * DPI));

/** A picture that fills a box, as many pixels as print needs and it has; heads are in the upper part of a portrait. */
async function filling(bytes: Buffer, { width, height }: Box, position: 'top' | 'centre'): Promise<Buffer> {
  const { width: w = 1, height: h = 1 } = await sharp(bytes).metadata();
  const share = Math.min(1, w / pixels(width), h / pixels(height));
  const size = [width, height].map((each) => Math.max(1, Math.round(pixels(each) * share)));
  return sharp(bytes)
    .resize(size[0]!, size[1]!, { fit: 'cover', position })
    .flatten({ background: '#fff' })
    .jpeg({ quality: 88, chromaSubsampling: '4:4:4' })
    .toBuffer();
}

async function picture(item: Of<'picture'>, name: string, state: State): Promise<string> {
  const bytes = state.pictures[item.which];
  if (!bytes) return '';
  const { x, y, width, height, shape } = item;
  const key = `${state.owner} ${item.which} ${n(width)} ${n(height)} ${shape}`;
  if (shape === 'whole') {
    state.resources.XObject[`I${name}`] = await embedded(state, key, async () => ({
      bytes: await sharp(bytes)
        .resize(pixels(width), pixels(height), { fit: 'inside', withoutEnlargement: true })
        .png()
        .toBuffer(),
      jpeg: false,
    }));
    return drawn(`I${name}`, item, '');
  }
  state.resources.XObject[`I${name}`] = await embedded(state, key, async () => ({
    bytes: await filling(bytes, item, 'top'),
    jpeg: true,
  }));
  const corner = shape === 'round' ? width / 2 : shape === 'eased' ? width * 0.08 : 0;
  return drawn(`I${name}`, item, corner > 0 ? outline({ x, y, width, height }, corner) : '');
}

/** Somebody's own design: drawn as it is, its inks and typefaces too. */
async function artwork(
  item: Of<'artwork'>,
  name: string,
  { painter, resources, pictures, owner }: State,
): Promise<string> {
  if (!pictures.artwork) return '';
  const key = `${owner} artwork`;
  const ref = painter.pictures.get(key) ?? (await embeddedPage(painter.document, pictures.artwork));
  painter.pictures.set(key, ref);
  resources.XObject[`A${name}`] = ref;
  return drawn(`A${name}`, item, '');
}

/** A band in its ground: a plain colour, a gradient, a pattern or a picture below a veil of its colour. */
async function band(item: Of<'band'>, name: string, state: State): Promise<string> {
  const { ground, colour, x, y, width, height } = item;
  const { document } = state.painter;
  if (ground.kind === 'gradient') {
    // The angle of CSS Images Module Level 4, 3.4.1: 0 points up, clockwise; along the box's own sides, as on screens.
    const turn = ((ground.angle - 90) * Math.PI) / 180;
    const [u, v] = [Math.cos(turn) / 2, Math.sin(turn) / 2];
    const coords = [0.5 - u, 0.5 - v, 0.5 + u, 0.5 + v];
    const [a, b, c, d, e, f] = state.matrix;
    const boxed: Matrix = [a * width, b * width, c * height, d * height, a * x + c * y + e, b * x + d * y + f];
    state.resources.Pattern[`G${name}`] = gradient(document.context, { from: colour, to: ground.to, coords }, boxed);
    return op('cs', '/Pattern') + op('scn', `/G${name}`) + rectangle(item) + op('f');
  }
  if (ground.kind === 'pattern')
    return (
      `${state.fill(colour)}${rectangle(item)}${op('f')}q\n${rectangle(item)}${op('W')}${op('n')}` +
      motif(item, ground, state.fill) +
      'Q\n'
    );
  if (ground.kind === 'picture' && state.pictures.ground) {
    const bytes = state.pictures.ground;
    const key = `${state.owner} ground ${n(width)} ${n(height)}`;
    state.resources.XObject[`I${name}`] = await embedded(state, key, async () => ({
      bytes: await filling(bytes, item, 'centre'),
      jpeg: true,
    }));
    state.resources.ExtGState[`V${name}`] = document.context.register(
      document.context.obj({ Type: 'ExtGState', ca: ground.veil }),
    );
    return (
      drawn(`I${name}`, item, '') + `q\n${op('gs', `/V${name}`)}${state.fill(colour)}${rectangle(item)}${op('f')}Q\n`
    );
  }
  const plain = ground.kind === 'picture' ? mix('#808080', colour, ground.veil) : colour;
  return state.fill(plain) + rectangle(item) + op('f');
}

/** The same colour for lines: each operator of filling has one of its own in capitals (ISO 32000-1, table 74). */
const strokeOf = (filled: string): string =>
  filled.replace(/ (k|rg|cs|scn)\n/g, (_, name: string) => ` ${name.toUpperCase()}\n`);

/** A pattern, tile by tile, as screens have it. */
function motif(
  { x, y, width, height }: Box,
  ground: Extract<Of<'band'>['ground'], { kind: 'pattern' }>,
  fill: Filling,
): string {
  const s = Math.min(width, height) / 14;
  const to = fill(ground.to);
  let made = strokeOf(to) + to;
  for (let top = 0; top < height; top += s)
    for (let left = 0; left < width; left += s) {
      const [u, v] = [x + left, y + top];
      if (ground.motif === 'furrows') made += op('w', s / 5) + op('m', u, v + s) + op('l', u + s, v) + op('S');
      else if (ground.motif === 'dots') {
        const r = s / 7;
        made += outline({ x: u + s / 2 - r, y: v + s / 2 - r, width: 2 * r, height: 2 * r }, r) + op('f');
      } else
        made +=
          op('w', s / 7) +
          op('m', u, v + s / 2) +
          op('l', u + s / 2, v + s / 2) +
          op('S') +
          op('m', u + s * 0.75, v) +
          op('l', u + s * 0.75, v + s) +
          op('S');
    }
  return made;
}
