import { z } from 'zod';

/** Sheets of an office printer, in millimetres: ISO 216 A4, and the letter of ANSI/ASME Y14.1. */
export const PAPERS = { a4: { width: 210, height: 297 }, letter: { width: 215.9, height: 279.4 } } as const;
export type PaperName = keyof typeof PAPERS;
export const PAPER_NAMES = Object.keys(PAPERS) as [PaperName, ...PaperName[]];

/** How many pieces go on a sheet: backs are turned over the long or the short edge, and shifted by tenths of a millimetre for a printer that does. */
export const SheetSchema = z.object({
  paper: z.enum(PAPER_NAMES),
  turn: z.enum(['long', 'short']),
  across: z.number().int().min(-100).max(100),
  down: z.number().int().min(-100).max(100),
});
export type SheetChoice = z.infer<typeof SheetSchema>;
export const FIRST_SHEET: SheetChoice = { paper: 'a4', turn: 'long', across: 0, down: 0 };

/** What office printers leave white at the edges, and room between pieces, half of it the bleed of each. Millimetres (common practice). */
const EDGE_MM = 8;
const GAP_MM = 4;
export const SHEET_BLEED_MM = GAP_MM / 2;

type Size = { width: number; height: number };

/** Places of pieces on a sheet, their trim's top left in millimetres, in the middle of it; empty where none has room. */
export function placesOn(paper: PaperName, { width, height }: Size): { x: number; y: number }[] {
  const sheet = PAPERS[paper];
  const fits = (room: number, each: number) => Math.max(0, Math.floor((room - 2 * EDGE_MM + GAP_MM) / (each + GAP_MM)));
  const [columns, rows] = [fits(sheet.width, width), fits(sheet.height, height)];
  const from = (room: number, each: number, count: number) => (room - count * each - (count - 1) * GAP_MM) / 2;
  const [left, top] = [from(sheet.width, width, columns), from(sheet.height, height, rows)];
  return Array.from({ length: columns * rows }, (_, at) => ({
    x: left + (at % columns) * (width + GAP_MM),
    y: top + Math.floor(at / columns) * (height + GAP_MM),
  }));
}

/** The place of a back behind a front, as its own side of the sheet has it: turned over an edge of the upright sheet, and shifted. */
export function behind(
  { x, y }: { x: number; y: number },
  { width, height }: Size,
  { paper, turn, across, down }: SheetChoice,
): { x: number; y: number } {
  const sheet = PAPERS[paper];
  return {
    x: (turn === 'long' ? sheet.width - x - width : x) + across / 10,
    y: (turn === 'short' ? sheet.height - y - height : y) + down / 10,
  };
}
