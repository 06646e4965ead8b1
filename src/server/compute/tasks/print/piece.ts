import sharp from 'sharp';
import type { Composition } from '@/core/card';
import { faceSvg } from '@/core/face';
import { logoGrounds } from '@/core/house';
import type { Language } from '@/core/language';
import { loadWords } from '@/core/messages';
import { groundsOf, plateFor, type Ink } from '@/core/look';
import {
  behind,
  bled,
  BLEED_MM,
  layPiece,
  lyingOn,
  PAPERS,
  planSheet,
  type SheetChoice,
  sizeOf,
  trimOf,
  type LaidPiece,
  type Piece,
} from '@/core/print';
import type { Proof } from '@/core/proof';
import { provePrint, textsOf } from '@/core/proof/print';
import type { Drawing } from '@/core/qr';
import { shippedTypesetter } from '@/server/fonts';
import { coloursOf } from '../colours';
import { printDocument, type Side } from './document';
import { openDocument, paintedPage } from './pdfium';
import { readPrint } from './read';
import { paintedSides, readArtwork, type GivenArtwork } from './read-artwork';

/** Bytes of the pictures that a piece shows, as they were given; null of those that it has none of. */
export type PieceBytes = Record<'photo' | 'logo' | 'logoOnBand' | 'ground', Buffer | null>;

/** A piece to print: what the card gives out, already in its house style, and what its code holds. */
export type PieceOrder = {
  composition: Composition;
  language: Language;
  piece: Piece;
  pictures: PieceBytes;
  code: Drawing;
  link: string;
  /** Values that must not stand on it. */
  withheld: string[];
  /** What the house's colours are printed with. */
  inks: Ink[];
  /** Somebody's own design that it is printed on; null for the look of the card. */
  artworks: { front: GivenArtwork; back: GivenArtwork | null } | null;
};

/** A piece as its screen shows it: its sides in millimetres, bleed in, as SVG; the proof is that of the file. */
export type DrawnPiece = {
  front: string | null;
  back: string | null;
  pdf: Buffer;
  proof: Proof;
  says: SideSays[];
  /** Of what was placed on a design: see {@link LaidPiece}. */
  boxes: NonNullable<LaidPiece['boxes']>;
};

/** What one side of a piece says, text by text, and how wide a module of its code is, in millimetres; null without one. */
export type SideSays = { texts: string[]; moduleMm: number | null };

const sizes = async (bytes: Buffer | null) => {
  if (!bytes) return null;
  const { width = 1, height = 1 } = await sharp(bytes).metadata();
  return { width, height };
};

/** A piece laid out, with plates behind logos that would vanish. */
export async function laidPiece(order: PieceOrder): Promise<LaidPiece> {
  const { composition, pictures } = order;
  const { look } = composition;
  const plated = async (bytes: Buffer | null, grounds: string[]) => {
    const size = await sizes(bytes);
    if (!size) return null;
    const { colours } = await coloursOf({ bytes: bytes! });
    return { ...size, plate: plateFor(colours, grounds, look.palette.sheet) };
  };
  const band = pictures.logoOnBand ?? pictures.logo;
  const { front, back } = order.artworks ?? {};
  return layPiece(
    {
      ...order,
      artworks: front ? { front: front.artwork, back: back?.artwork ?? null } : null,
      pictures: {
        photo: await sizes(pictures.photo),
        logo: await plated(pictures.logo, logoGrounds(look)),
        logoOnBand: await plated(band, groundsOf(look)),
      },
    },
    await shippedTypesetter(),
  );
}

/** The sides of a laid piece as they go into a file; `owner` tells one person's pictures from another's. */
export function sidesOf({ front, back }: LaidPiece, { pictures, piece, artworks }: PieceOrder, owner: string): Side[] {
  const { photo, ground } = pictures;
  if (artworks)
    return [front, ...(back ? [back] : [])].map((face, at) => ({
      ...{ face, owner: at === 0 ? owner : `${owner} back` },
      pictures: {
        photo: null,
        logo: null,
        ground: null,
        artwork: artworks[at === 0 ? 'front' : 'back']?.bytes ?? null,
      },
    }));
  const onBand = { photo, ground, logo: pictures.logoOnBand ?? pictures.logo };
  const onSheet = { photo, ground, logo: pictures.logo };
  const coded = sizeOf(piece.size).stock !== 'card';
  return [
    { face: front, pictures: coded ? onBand : onSheet, owner },
    ...(back ? [{ face: back, pictures: piece.back === 'code' ? onBand : onSheet, owner: `${owner} back` }] : []),
  ];
}

/** How far the code of a piece is read from, in millimetres. */
const distanceOf = ({ size, distanceMm }: Piece): number | undefined =>
  sizeOf(size).stock === 'sign' ? distanceMm : undefined;

/** Prints a piece into a file and proves it from the file's bytes; its sides are drawn as well where they are `shown`. */
export async function printPiece(order: PieceOrder & { title: string; shown: boolean }): Promise<DrawnPiece> {
  await loadWords(order.language);
  const typesetter = await shippedTypesetter();
  const { composition, withheld, piece, link } = order;
  const laid = await laidPiece(order);
  const sides = sidesOf(laid, order, '');
  const document = await printDocument(order.title, typesetter, order.inks);
  for (const side of sides) await document.addSide(side, piece.marks);
  const pdf = await document.finish();
  const codesOf = (at: number) => sides[at]?.face.items.filter((item) => item.kind === 'code') ?? [];
  const read = await readPrint(pdf, codesOf, distanceOf(piece));
  const sheets = piece.sheet ? await printSheets(order, sides, piece.sheet) : null;
  const designs = order.artworks && (await readArtworks(order.artworks, piece, pdf, codesOf));
  for (const [at, { dpi }] of (designs ?? []).entries()) read.sides[at]?.dpi.push(...dpi);
  const held = { composition, withheld, piece, laid, link, inks: order.inks, ...(designs ? { designs } : {}) };
  const proof = provePrint(read, sheets ? { ...held, sheets } : held);
  const [front = null, back = null] = order.shown ? await Promise.all(sides.map((side) => svgOf(side))) : [];
  const says = sides.map(({ face }): SideSays => {
    const code = face.items.find((item) => item.kind === 'code');
    return { texts: textsOf(face), moduleMm: code ? code.width / code.drawing.width : null };
  });
  return { front, back, pdf: sheets?.pdf ?? pdf, proof, says, boxes: laid.boxes ?? [] };
}

/** The designs below a piece, by their own words and as the file shows them. */
async function readArtworks(
  { front, back }: NonNullable<PieceOrder['artworks']>,
  piece: Piece,
  pdf: Buffer,
  codesOf: (side: number) => { x: number; y: number; width: number; height: number; drawing: Drawing }[],
) {
  const given = [front, ...(back ? [back] : [])];
  const seen = await paintedSides(pdf, codesOf);
  return Promise.all(
    given.map(async (each, at) => ({
      ...(await readArtwork(each, lyingOn(each.artwork, trimOf(piece), piece.enlarged))),
      ...(seen[at] ?? { whiteEdges: false, zones: [] }),
    })),
  );
}

/** Sheets full of a piece, its backs behind its fronts, and what is read of them again. */
async function printSheets(order: PieceOrder & { title: string }, sides: Side[], choice: SheetChoice) {
  const document = await printDocument(order.title, await shippedTypesetter(), order.inks);
  const [front, back] = sides as [Side, Side?];
  const { width, height } = PAPERS[choice.paper];
  const plan = planSheet(choice, front.face);
  const fronts = plan.places.map((place) => ({ side: front, ...place }));
  const backs = back ? fronts.map((place) => ({ side: back, ...behind(place, front.face, choice) })) : [];
  const pages = [fronts, backs].filter((cells) => cells.length > 0);
  for (const cells of pages) await document.addSheet({ width, height, cells, bleed: plan.bleed, cut: plan.cut });
  if (pages.length === 0) await document.addSide(front, false);
  const pdf = await document.finish();
  const places = pages.map((cells) => cells.map(({ side, x, y }) => ({ face: side.face, x, y })));
  return { pdf, read: await readPrint(pdf), places, fault: plan.fault };
}

const asUri = async (bytes: Buffer | null, most: number): Promise<string | null> =>
  bytes &&
  `data:image/png;base64,${(await sharp(bytes).resize(most, most, { fit: 'inside', withoutEnlargement: true }).png().toBuffer()).toString('base64')}`;

/** A design as screens show it. */
async function paintedUri(bytes: Buffer | null, most: number): Promise<string | null> {
  if (!bytes) return null;
  const document = await openDocument(bytes);
  try {
    const { data, width, height } = await paintedPage(document, 0, { dpi: SIDE_DPI, most });
    const png = await sharp(data, { raw: { width, height, channels: 4 } })
      .removeAlpha()
      .png({ compressionLevel: 4 })
      .toBuffer();
    return `data:image/png;base64,${png.toString('base64')}`;
  } finally {
    document.destroy();
  }
}

/** Longer sides of pictures in pixels, as a screen needs them and as print does. */
const PIXELS = { screen: { picture: 480, ground: 720 }, print: { picture: 2_000, ground: 4_000 } } as const;

/** A side with its bleed as SVG, in millimetres. */
async function svgOf({ face, pictures }: Side, of: keyof typeof PIXELS = 'screen'): Promise<string> {
  const whole = bled(face);
  const [photo, logo, ground, artwork] = await Promise.all([
    asUri(pictures.photo, PIXELS[of].picture),
    asUri(pictures.logo, PIXELS[of].picture),
    asUri(pictures.ground, PIXELS[of].ground),
    paintedUri(pictures.artwork ?? null, PIXELS[of].ground),
  ]);
  return faceSvg(whole, await shippedTypesetter(), { photo, logo, ground, artwork }, 'mm', BLEED_MM);
}

/** Dots an inch of a side as pixels, and what a very large one has at most along its longer side. */
const [SIDE_DPI, SIDE_PIXELS] = [300, 5_000];

/** A side with its bleed on its own: as vectors, or as pixels at 300 dots an inch; null of a back that there is none of. */
export async function drawSide(
  order: PieceOrder & { side: 'front' | 'back'; format: 'svg' | 'png' },
): Promise<Buffer | null> {
  await loadWords(order.language);
  const side = sidesOf(await laidPiece(order), order, '')[order.side === 'front' ? 0 : 1];
  if (!side) return null;
  const svg = Buffer.from(await svgOf(side, 'print'));
  if (order.format === 'svg') return svg;
  const [width, height] = [side.face.width, side.face.height].map((each) => each + 2 * BLEED_MM) as [number, number];
  const dpi = Math.min(SIDE_DPI, (SIDE_PIXELS * 25.4) / Math.max(width, height));
  const [across, down] = [width, height].map((each) => Math.round((each / 25.4) * dpi));
  return sharp(svg, { density: Math.max(72, dpi) })
    .resize(across, down, { fit: 'fill' })
    .flatten({ background: '#fff' })
    .withMetadata({ density: dpi })
    .png()
    .toBuffer();
}
