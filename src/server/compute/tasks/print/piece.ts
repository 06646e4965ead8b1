import sharp from 'sharp';
import type { Composition } from '@/core/card';
import { faceSvg } from '@/core/face';
import { logoGrounds } from '@/core/house';
import type { Language } from '@/core/language';
import { loadWords } from '@/core/messages';
import { groundsOf, plateFor } from '@/core/look';
import {
  behind,
  bled,
  BLEED_MM,
  layPiece,
  PAPERS,
  placesOn,
  SHEET_BLEED_MM,
  type SheetChoice,
  sizeOf,
  type LaidPiece,
  type Piece,
} from '@/core/print';
import type { Proof } from '@/core/proof';
import { provePrint } from '@/core/proof/print';
import type { Drawing } from '@/core/qr';
import { shippedTypesetter } from '@/server/fonts';
import { coloursOf } from '../colours';
import { printDocument, type Side } from './document';
import { readPrint } from './read';

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
};

/** A piece as its screen shows it: its sides in millimetres, bleed in, as SVG; the proof is that of the file. */
export type DrawnPiece = { front: string | null; back: string | null; pdf: Buffer; proof: Proof };

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
  return layPiece(
    {
      ...order,
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
export function sidesOf({ front, back }: LaidPiece, { pictures, piece }: PieceOrder, owner: string): Side[] {
  const { photo, ground } = pictures;
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
  const document = await printDocument(order.title, typesetter);
  for (const side of sides) await document.addSide(side, piece.marks);
  const pdf = await document.finish();
  const codesOf = (at: number) => sides[at]?.face.items.filter((item) => item.kind === 'code') ?? [];
  const read = await readPrint(pdf, codesOf, distanceOf(piece));
  const sheets = piece.sheet ? await printSheets(order, sides, piece.sheet) : null;
  const held = { composition, withheld, piece, laid, link };
  const proof = provePrint(read, sheets ? { ...held, sheets } : held);
  const [front = null, back = null] = order.shown ? await Promise.all(sides.map((side) => svgOf(side))) : [];
  return { front, back, pdf: sheets?.pdf ?? pdf, proof };
}

/** Sheets full of a piece, its backs behind its fronts, and what is read of them again. */
async function printSheets(order: PieceOrder & { title: string }, sides: Side[], choice: SheetChoice) {
  const document = await printDocument(order.title, await shippedTypesetter());
  const [front, back] = sides as [Side, Side?];
  const { width, height } = PAPERS[choice.paper];
  const fronts = placesOn(choice.paper, front.face).map((place) => ({ side: front, ...place }));
  const backs = back ? fronts.map((place) => ({ side: back, ...behind(place, front.face, choice) })) : [];
  const pages = [fronts, backs].filter((cells) => cells.length > 0);
  for (const cells of pages) await document.addSheet({ width, height, cells, bleed: SHEET_BLEED_MM });
  if (pages.length === 0) await document.addSide(front, false);
  const pdf = await document.finish();
  const places = pages.map((cells) => cells.map(({ side, x, y }) => ({ face: side.face, x, y })));
  return { pdf, read: await readPrint(pdf), places };
}

const asUri = async (bytes: Buffer | null, most: number): Promise<string | null> =>
  bytes &&
  `data:image/png;base64,${(await sharp(bytes).resize(most, most, { fit: 'inside', withoutEnlargement: true }).png().toBuffer()).toString('base64')}`;

/** A side with its bleed as SVG, its pictures as large as a screen needs them. */
async function svgOf({ face, pictures }: Side): Promise<string> {
  const whole = bled(face);
  const [photo, logo, ground] = await Promise.all([
    asUri(pictures.photo, 480),
    asUri(pictures.logo, 480),
    asUri(pictures.ground, 720),
  ]);
  return faceSvg(whole, await shippedTypesetter(), { photo, logo, ground }, 'mm', BLEED_MM);
}
