import { faceContent, layFace, type Face, type FaceContent, type FaceItem, type Typesetter } from '@/core/face';
import type { Composition } from '@/core/card';
import type { Language } from '@/core/language';
import { say } from '@/core/messages';
import type { Drawing } from '@/core/qr';
import { layArtwork, type Artworks } from './artwork';
import { codeMmOf } from './code-size';
import { layCodeFace, type CodeFaceContent } from './code-face';
import { BLEED_MM, roomsOf, sizeOf, type Stock } from './sizes';
import { trimOf, type Piece } from './spec';

/** Sizes of the pictures that a piece shows, in pixels, and the plates that its logo needs on either side. */
export type PiecePictures = {
  photo: FaceContent['photo'];
  logo: FaceContent['logo'];
  logoOnBand: FaceContent['logo'];
};

/** A piece of paper laid out: its sides, trimmed, in millimetres, and which lines of the card stand on it. */
export type LaidPiece = {
  front: Face;
  back: Face | null;
  /** Of what was placed on an artwork, by its place in the list: its box; null of a line that is not on paper any more. */
  boxes?: ({ x: number; y: number; width: number; height: number } | null)[];
};

export type PieceOrder = {
  composition: Composition;
  language: Language;
  piece: Piece;
  pictures: PiecePictures;
  /** The living code as it is drawn. */
  code: Drawing;
  /** The own design that it is printed on; null for the look of the card. */
  artworks?: Artworks | null;
};

/**
 * Lays out a piece: what is ticked for paper and nothing else, by the layout of the card's look. Words are made smaller down to the least
 * type of its size; what then has no room is told by the faces (`leftOut`, `cut`), never cut off in silence.
 */
export function layPiece(order: PieceOrder, typesetter: Typesetter): LaidPiece {
  const { composition, language, piece, pictures } = order;
  const { look } = composition;
  if (order.artworks) {
    const { placed, enlarged } = piece;
    return layArtwork({ ...order, artworks: order.artworks, placed, enlarged, trim: trimOf(piece) }, typesetter);
  }
  const { stock } = sizeOf(piece.size);
  const trim = { ...trimOf(piece), ...roomsOf(piece.size) };
  const whole = faceContent(composition, language, pictures, 'lines', 'print');
  const sentence = piece.sentence.trim() || say('save', language);
  const coded = (content: Omit<CodeFaceContent, 'code' | 'codeMm' | 'logo' | 'toRight'>): Face =>
    layCodeFace(
      look,
      {
        ...content,
        logo: content.bare ? null : pictures.logoOnBand,
        code: order.code,
        codeMm: codeMmOf(piece),
        toRight: whole.toRight,
      },
      trim,
      typesetter,
    );
  const who = [whole.role, whole.firm].filter(Boolean);
  const below = trim.width < trim.height * 1.2;
  const faces: Partial<Record<Stock, () => Face>> = {
    badge: () => coded({ title: whole.name, texts: who, below }),
    label: () => coded({ title: whole.name, texts: who, below }),
    sign: () => coded({ title: sentence, texts: [whole.name, ...who], below }),
    sticker: () => coded({ title: '', texts: [], below: true, bare: true }),
  };
  const oneSided = faces[stock];
  if (oneSided) return { front: oneSided(), back: null };
  const size = { form: piece.form, whole: true as const, ...trim };
  if (piece.back === 'lines') {
    const nameless = { ...whole, name: '', role: '', firm: '', photo: null, logo: null };
    return {
      front: layFace(look, { ...whole, lines: [], alarm: null }, size, typesetter),
      back: layFace(look, nameless, size, typesetter),
    };
  }
  return {
    front: layFace(look, whole, size, typesetter),
    back: piece.back === 'code' ? coded({ title: sentence, texts: whole.firm ? [whole.firm] : [], below }) : null,
  };
}

type Box = { x: number; y: number; width: number; height: number };

/** A face with its colours and pictures drawn on beyond the trim: what reaches an edge of it reaches that far over it. Places stay those of the trim. */
export function bled(face: Face, by: number = BLEED_MM): Face {
  const near = (a: number, b: number) => Math.abs(a - b) < 0.01;
  const grown = <T extends Box>(box: T): T => {
    const left = near(box.x, 0) ? by : 0;
    const top = near(box.y, 0) ? by : 0;
    const right = near(box.x + box.width, face.width) ? by : 0;
    const bottom = near(box.y + box.height, face.height) ? by : 0;
    return {
      ...box,
      x: box.x - left,
      y: box.y - top,
      width: box.width + left + right,
      height: box.height + top + bottom,
    };
  };
  const reaches = (item: FaceItem): boolean =>
    item.kind === 'sheet' || item.kind === 'band' || (item.kind === 'picture' && item.shape === 'filled');
  return { ...face, items: face.items.map((item) => (reaches(item) ? grown(item as FaceItem & Box) : item)) };
}
