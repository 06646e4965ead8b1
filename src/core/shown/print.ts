import type { Leaving } from '@/core/card';
import type { Artwork, LaidPiece, Piece } from '@/core/print';
import type { Proof } from '@/core/proof';

/** Copies of a piece that are out; the day as `YYYY-MM-DD`. */
export type ShownRun = { id: string; printedOn: string; copies: number; place: string; revision: number };

/** Somebody's own design of a side: how its file was called, and bytes that it takes. */
export type ShownArtwork = { name: string; bytes: number; artwork: Artwork };

/** A link for a designer: until when it holds, how often it was fetched. */
export type ShownDesignerLink = { id: string; ends: string; fetched: number; over: boolean };

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
  /** The own design that was given for it. */
  artworks: { front: ShownArtwork; back: ShownArtwork | null } | null;
  /** Of what was placed on that, by its place in the list, in millimetres from the trim's top left; null of a line that is not ticked for paper any more. */
  boxes: NonNullable<LaidPiece['boxes']>;
  /** Lines that may be placed, `name` among them, with their titles; and colours that they are offered in. */
  lines: { line: string; title: string; value: string }[];
  colours: string[];
  /** Links for designers. */
  links: ShownDesignerLink[];
};
