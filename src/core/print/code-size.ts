import { sideOf, TEN_TO_ONE } from '@/core/qr';
import { roomsOf, sizeOf } from './sizes';
import { trimOf, type Piece } from './spec';

/** What a size suggests: on a card less than a third of its side, on a sticker the whole of it, on a sign a tenth of the distance. */
function suggestedMm(piece: Piece): number {
  const { width, height } = trimOf(piece);
  const { stock, round } = sizeOf(piece.size);
  const { margin } = roomsOf(piece.size);
  const shorter = Math.min(width, height);
  if (stock === 'sticker') return round ? shorter / Math.SQRT2 : shorter - 2 * margin;
  if (stock === 'sign') return piece.distanceMm / TEN_TO_ONE;
  return Math.min(shorter - 2 * margin, shorter * 0.6, 36);
}

/** The widest that a code may be on a piece, in millimetres: a sign keeps a third of its height for words. */
export function roomForCode(piece: Piece): number {
  const { width, height } = trimOf(piece);
  const { stock, round } = sizeOf(piece.size);
  const { margin } = roomsOf(piece.size);
  const shorter = Math.min(width, height);
  if (stock === 'sticker') return round ? shorter / Math.SQRT2 : shorter - 2 * margin;
  // Beside the words where it lies, above them where it stands.
  return width > height * 1.2 ? Math.min(height - 2 * margin, width * 0.5) : Math.min(width - 2 * margin, height * 0.6);
}

/** The printed width of the code of a piece, margin in, in millimetres. */
export const codeMmOf = (piece: Piece): number =>
  Math.min(
    roomForCode(piece),
    sizeOf(piece.size).stock === 'sign' ? suggestedMm(piece) : (piece.codeMm ?? suggestedMm(piece)),
  );

/** What a size gives a code: its printed width and that of a module, in millimetres, for a symbol of so many modules. */
export function codeOn(piece: Piece, modules: number): { widthMm: number; moduleMm: number } {
  const widthMm = codeMmOf(piece);
  return { widthMm, moduleMm: widthMm / sideOf(modules) };
}
