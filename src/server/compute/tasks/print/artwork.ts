import { constants, inflateSync } from 'node:zlib';
import {
  decodePDFRawStream,
  PDFArray,
  PDFDict,
  PDFDocument,
  PDFHeader,
  PDFName,
  PDFNumber,
  PDFObjectCopier,
  PDFRawStream,
  PDFStream,
  type PDFObject,
  type PDFPage,
} from '@cantoo/pdf-lib';
import sharp from 'sharp';
import { Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { POINTS_PER_MM, type Artwork } from '@/core/print';
import { marksOf, openDocument, paintedPage } from './pdfium';

/** One side of a design as it is kept: a document of one page from which whatever acts or is hidden was left out, and what is known of it. */
export type TakenIn = { bytes: Buffer; artwork: Artwork };

type Removed = Artwork['removed'][number];

/** Pages of a document that are taken in: a front and a back. */
const MOST_PAGES = 2;
/** A page's content unfolds to so many bytes at most. */
const MOST_CONTENT = 64_000_000;
/** Objects that a page may hang together with. */
const MOST_OBJECTS = 200_000;
/** Pixels of a picture's longer side: the largest sign has no more at 300 an inch. */
const MOST_PIXELS = 5_000;
/** Pixels of the longer side that a page is tried with. */
const TRIED = 300;

const isPdf = (bytes: Buffer): boolean => bytes.subarray(0, 1_024).includes('%PDF-');

/**
 * Takes in somebody's finished design: a document (its first two pages are front and back) or a picture. Scripts, forms, notes and attached files stay
 * outside. Errors: DESIGN_LOCKED, ARTWORK_UNREADABLE, ARTWORK_LAYERS.
 */
export async function takeIn({ bytes }: { bytes: Buffer }): Promise<TakenIn[]> {
  const made = isPdf(bytes) ? await pagesOf(bytes) : [await pictureOf(bytes)];
  // What our own reader makes nothing of is not kept either.
  for (const { bytes: kept } of made) {
    const document = await openDocument(kept);
    try {
      await paintedPage(document, 0, { dpi: 72, most: TRIED });
    } finally {
      document.destroy();
    }
  }
  return made;
}

async function began(): Promise<PDFDocument> {
  const document = await PDFDocument.create({ updateMetadata: false });
  document.context.header = PDFHeader.forVersion(1, 6);
  return document;
}

const finished = async (document: PDFDocument): Promise<Buffer> =>
  Buffer.from(await document.save({ useObjectStreams: true }));

/** A picture as it is printed: turned as it was taken, on white, without what its file tells besides; inks stay inks. */
async function pictureOf(bytes: Buffer): Promise<TakenIn> {
  try {
    const source = () => sharp(bytes, { limitInputPixels: LIMITS.megapixels * 1e6, failOn: 'error' });
    const { format, space, hasAlpha } = await source().metadata();
    if (format !== 'png' && format !== 'jpeg') throw new Refusal({ code: 'ARTWORK_UNREADABLE' });
    const sized = source().rotate().resize(MOST_PIXELS, MOST_PIXELS, { fit: 'inside', withoutEnlargement: true });
    const flat = hasAlpha ? sized.flatten({ background: '#fff' }) : sized;
    const drawn =
      format === 'png'
        ? flat.toColourspace('srgb').png({ compressionLevel: 6 })
        : flat.toColourspace(space === 'cmyk' ? 'cmyk' : 'srgb').jpeg({ quality: 92, chromaSubsampling: '4:4:4' });
    const { data, info } = await drawn.toBuffer({ resolveWithObject: true });
    const document = await began();
    const image = format === 'png' ? await document.embedPng(data) : await document.embedJpg(data);
    const { width, height } = info;
    await image.embed();
    const { context } = document;
    const page = document.addPage([width, height]);
    page.node.set(name('Resources'), context.obj({ XObject: { P: image.ref } }));
    page.node.set(
      name('Contents'),
      context.register(context.flateStream(`q\n${width} 0 0 ${height} 0 0 cm /P Do\nQ\n`)),
    );
    const artwork: Artwork = { kind: 'picture', width, height, trim: null, text: false, removed: [] };
    return { bytes: await finished(document), artwork };
  } catch {
    throw new Refusal({ code: 'ARTWORK_UNREADABLE' });
  }
}

async function pagesOf(bytes: Buffer): Promise<TakenIn[]> {
  try {
    // It tells a password, whoever else only says that it cannot read.
    (await openDocument(bytes)).destroy();
    const source = await PDFDocument.load(bytes, { updateMetadata: false });
    if (hidesLayers(source)) throw new Refusal({ code: 'ARTWORK_LAYERS' });
    const removed = broughtAlong(source);
    const pages = source.getPages().slice(0, MOST_PAGES);
    const made: TakenIn[] = [];
    for (const page of pages) made.push(await cleanPage(source, page, removed));
    return made;
  } catch (error) {
    if (error instanceof Refusal && error.problem.code !== 'DESIGN_UNREADABLE') throw error;
    throw new Refusal({ code: 'ARTWORK_UNREADABLE' });
  }
}

const name = (text: string) => PDFName.of(text);
const dictOf = (object: PDFObject | undefined): PDFDict | null =>
  object instanceof PDFStream ? object.dict : object instanceof PDFDict ? object : null;

/** Whether layers are switched off: taken out of their document they would all be printed. */
function hidesLayers({ catalog, context }: PDFDocument): boolean {
  const layers = dictOf(context.lookup(catalog.get(name('OCProperties'))));
  const usual = layers && dictOf(context.lookup(layers.get(name('D'))));
  if (!usual) return false;
  const off = context.lookup(usual.get(name('OFF')));
  return (off instanceof PDFArray && off.size() > 0) || usual.get(name('BaseState')) === name('OFF');
}

/** Kinds of actions (ISO 32000-1, table 198). */
const ACTIONS = new Set(
  ['JavaScript', 'Launch', 'URI', 'SubmitForm', 'ImportData', 'GoToR', 'GoToE', 'Rendition', 'RichMediaExecute'].map(
    (each) => `/${each}`,
  ),
);

/** What a document has besides its pages, told once so that nobody misses it. */
function broughtAlong(source: PDFDocument): Removed[] {
  const found = new Set<Removed>();
  const { catalog, context } = source;
  const names = dictOf(context.lookup(catalog.get(name('Names'))));
  if (names?.has(name('JavaScript')) || catalog.has(name('OpenAction')) || catalog.has(name('AA'))) found.add('script');
  if (catalog.has(name('AcroForm'))) found.add('form');
  for (const [, object] of context.enumerateIndirectObjects()) {
    const dict = dictOf(object);
    if (!dict) continue;
    const action = dict.get(name('S'))?.toString() ?? '';
    if (dict.has(name('JS')) || ACTIONS.has(action)) found.add('script');
    const type = dict.get(name('Type'))?.toString();
    if (type === '/EmbeddedFile' || type === '/Filespec') found.add('files');
  }
  if (
    source
      .getPages()
      .slice(0, MOST_PAGES)
      .some((page) => page.node.has(name('Annots')))
  )
    found.add('notes');
  return [...found];
}

/** Entries that print nothing: what acts, tells of its maker, or draws from elsewhere (ISO 32000-1, tables 95, 14.5, 14.11.7, 8.8). */
const DROPPED = [
  'AA',
  'JS',
  'Annots',
  'Parent',
  'Metadata',
  'PieceInfo',
  'OPI',
  'AF',
  'StructParent',
  'StructParents',
].map(name);

const acts = (dict: PDFDict): boolean =>
  ACTIONS.has(dict.get(name('S'))?.toString() ?? '') ||
  ['/EmbeddedFile', '/Filespec'].includes(dict.get(name('Type'))?.toString() ?? '') ||
  dict.get(name('Subtype'))?.toString() === '/PS';

/** Takes everything out of what a page draws with that does not draw. Error: ARTWORK_UNREADABLE of what has no end. */
function clean({ context }: PDFDocument, from: PDFObject | undefined): void {
  const seen = new Set<PDFObject>();
  const waiting: (PDFObject | undefined)[] = [from];
  while (waiting.length > 0) {
    const object = context.lookup(waiting.pop());
    if (!object || seen.has(object)) continue;
    if (seen.size >= MOST_OBJECTS) throw new Refusal({ code: 'ARTWORK_UNREADABLE' });
    seen.add(object);
    if (object instanceof PDFArray) waiting.push(...object.asArray());
    const dict = dictOf(object);
    if (!dict) continue;
    for (const key of DROPPED) dict.delete(key);
    // A stream whose data lie elsewhere; a form that stands for a page elsewhere.
    if (object instanceof PDFStream) for (const key of ['F', 'FFilter', 'FDecodeParms', 'Ref']) dict.delete(name(key));
    for (const [key, value] of dict.entries()) {
      const inner = dictOf(context.lookup(value));
      if (inner && acts(inner)) dict.delete(key);
      else waiting.push(value);
    }
  }
}

/** What a stream unfolds to, within bounds. Error: ARTWORK_UNREADABLE. */
function unfolded(stream: PDFRawStream): Buffer {
  const { dict, contents } = stream;
  const told = dict.lookup(name('Filter'));
  const filters = told instanceof PDFArray ? told.asArray() : told ? [told] : [];
  const simple = filters.length === 1 && !dict.has(name('DecodeParms'));
  if (simple && ['/FlateDecode', '/Fl'].includes(String(filters[0])))
    return inflateSync(contents, { maxOutputLength: MOST_CONTENT, finishFlush: constants.Z_SYNC_FLUSH });
  // Rarer ways of packing unfold to no more than some hundred times their size: a small one of them.
  if (contents.length > MOST_CONTENT / 200) throw new Refusal({ code: 'ARTWORK_UNREADABLE' });
  return Buffer.from(decodePDFRawStream(stream).decode());
}

function contentOf({ context }: PDFDocument, page: PDFPage): Buffer {
  const contents = context.lookup(page.node.get(name('Contents')));
  const streams = contents instanceof PDFArray ? contents.asArray().map((each) => context.lookup(each)) : [contents];
  const parts: Buffer[] = [];
  let bytes = 0;
  for (const stream of streams) {
    if (!(stream instanceof PDFRawStream)) continue;
    const part = unfolded(stream);
    bytes += part.length;
    if (bytes > MOST_CONTENT) throw new Refusal({ code: 'ARTWORK_UNREADABLE' });
    parts.push(part, Buffer.from('\n'));
  }
  return Buffer.concat(parts);
}

type Rect = { x: number; y: number; width: number; height: number };

/** Takes points of a page that is turned clockwise by quarter turns to one that is not, its box from the bottom left. */
function uprightOf({ x, y, width, height }: Rect, turns: number): [number, number, number, number, number, number] {
  if (turns === 1) return [0, -1, 1, 0, -y, x + width];
  if (turns === 2) return [-1, 0, 0, -1, x + width, y + height];
  if (turns === 3) return [0, 1, -1, 0, y + height, -x];
  return [1, 0, 0, 1, -x, -y];
}

const within = ({ x, y, width, height }: Rect, outer: Rect): Rect => {
  const [left, bottom] = [Math.max(x, outer.x), Math.max(y, outer.y)];
  return {
    ...{ x: left, y: bottom },
    ...{
      width: Math.min(x + width, outer.x + outer.width) - left,
      height: Math.min(y + height, outer.y + outer.height) - bottom,
    },
  };
};

/** How a page is laid over what is below it, and nothing that its entry holds besides (ISO 32000-1, table 147). */
function transparencyOf(source: PDFDocument, page: PDFPage): PDFDict | null {
  const { context } = source;
  const given = dictOf(context.lookup(page.node.get(name('Group'))));
  if (given?.get(name('S')) !== name('Transparency')) return null;
  const kept = context.obj({ Type: 'Group', S: 'Transparency' });
  for (const key of ['CS', 'I', 'K'].map(name)) {
    const value = given.get(key);
    if (value) kept.set(key, value);
  }
  clean(source, kept);
  return kept;
}

/** A page by itself, upright, from its own corner, with what it draws with and nothing else. */
async function cleanPage(source: PDFDocument, page: PDFPage, removed: Removed[]): Promise<TakenIn> {
  const whole = within(page.getCropBox(), page.getMediaBox());
  if (!(whole.width > 1 && whole.height > 1 && whole.width < 14_400 && whole.height < 14_400))
    throw new Refusal({ code: 'ARTWORK_UNREADABLE' });
  const turns = (((page.getRotation().angle / 90) % 4) + 4) % 4;
  const matrix = uprightOf(whole, turns);
  const [width, height] = turns % 2 === 1 ? [whole.height, whole.width] : [whole.width, whole.height];
  const content = contentOf(source, page);
  const given = page.node.Resources() ?? source.context.obj({});
  clean(source, given);
  const group = transparencyOf(source, page);
  const document = await began();
  const copier = PDFObjectCopier.for(source.context, document.context);
  const made = document.addPage([width, height]);
  made.node.set(name('Resources'), copier.copy(given));
  if (group) made.node.set(name('Group'), copier.copy(group));
  const moved = Buffer.concat([Buffer.from(`q\n${matrix.join(' ')} cm\n`), content, Buffer.from('\nQ\n')]);
  made.node.set(name('Contents'), document.context.register(document.context.flateStream(moved)));
  const user = page.node.lookup(name('UserUnit'));
  const mm = (user instanceof PDFNumber ? user.asNumber() : 1) / POINTS_PER_MM;
  const cut = uprightBox(within(page.getTrimBox(), whole), matrix);
  const bytes = await finished(document);
  const { text } = await marksOf(bytes);
  const trim = { x: cut.x * mm, y: (height - cut.y - cut.height) * mm, width: cut.width * mm, height: cut.height * mm };
  const artwork: Artwork = {
    ...{ kind: 'pdf', width: width * mm, height: height * mm, removed },
    trim: trim.width > 1 && trim.height > 1 ? trim : null,
    text: /[\p{L}\p{N}]{2}/u.test(text),
  };
  return { bytes, artwork };
}

function uprightBox({ x, y, width, height }: Rect, [a, b, c, d, e, f]: ReturnType<typeof uprightOf>): Rect {
  const corners = [
    [x, y],
    [x + width, y + height],
  ].map(([u, v]) => [a * u! + c * v! + e, b * u! + d * v! + f] as const);
  const [xs, ys] = [corners.map(([u]) => u), corners.map(([, v]) => v)];
  const [left, bottom] = [Math.min(...xs), Math.min(...ys)];
  return { x: left, y: bottom, width: Math.max(...xs) - left, height: Math.max(...ys) - bottom };
}
