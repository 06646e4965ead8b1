import type { Leaving } from '@/core/card';
import type { Piece } from '@/core/print';
import type { Proof } from '@/core/proof';

/** Copies of a piece that are out; the day as `YYYY-MM-DD`. */
export type ShownRun = { id: string; printedOn: string; copies: number; place: string; revision: number };

/** A printed piece as its screen shows it. Its sides are SVG in millimetres, bleed in; the proof is that of the file. */
export type ShownPiece = {
  id: string;
  cardId: string;
  placement: string;
  /** Where its code leads. */
  link: string;
  piece: Piece;
  /** The revision that is printed, and whether the draft says something else on paper by now. */
  revision: number;
  unpublished: boolean;
  /** What stands beside the code where nothing else is said. */
  sentence: string;
  /** What is private and on it: whoever has it has that. */
  leaving: Leaving[];
  front: string;
  back: string | null;
  proof: Proof;
  /** Width of its file, in bytes. */
  bytes: number;
  /** The code's printed width, the widest that there is room for, in millimetres, and modules across it, margin in. */
  code: { widthMm: number; roomMm: number; modules: number };
  runs: ShownRun[];
};
