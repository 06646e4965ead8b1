import { z } from 'zod';

/** Sheets of an office printer, in millimetres: ISO 216 A4, and the letter of ANSI/ASME Y14.1. */
export const PAPERS = { a4: { width: 210, height: 297 }, letter: { width: 215.9, height: 279.4 } } as const;
export type PaperName = keyof typeof PAPERS;
export const PAPER_NAMES = Object.keys(PAPERS) as [PaperName, ...PaperName[]];

/** A sheet of labels that are cut already, in tenths of a millimetre: how many across and down, where the first one begins, and from one to the next. */
export const LabelsSchema = z.object({
  columns: z.number().int().min(1).max(20),
  rows: z.number().int().min(1).max(40),
  left: z.number().int().min(0).max(4_000),
  top: z.number().int().min(0).max(4_000),
  stepAcross: z.number().int().min(50).max(4_000),
  stepDown: z.number().int().min(50).max(4_000),
});
export type Labels = z.infer<typeof LabelsSchema>;

/** 3 by 8 labels of 70 by 37 mm edge to edge on A4 (common practice, no published source). */
export const FIRST_LABELS: Labels = { columns: 3, rows: 8, left: 0, top: 5, stepAcross: 700, stepDown: 370 };

/** How many pieces go on a sheet: backs are turned over the long or the short edge, and shifted by tenths of a millimetre for a printer that does. */
export const SheetSchema = z.object({
  paper: z.enum(PAPER_NAMES),
  turn: z.enum(['long', 'short']),
  across: z.number().int().min(-100).max(100),
  down: z.number().int().min(-100).max(100),
  /** The measures of a sheet of labels; null where pieces are cut out of plain paper. */
  labels: LabelsSchema.nullable().default(null),
});
export type SheetChoice = z.infer<typeof SheetSchema>;
export const FIRST_SHEET: SheetChoice = { paper: 'a4', turn: 'long', across: 0, down: 0, labels: null };

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

/** What does not add up of a sheet of labels: neighbours lie over each other, or the last one beyond the paper. */
export type LabelFault = 'overlap' | 'beyond';

function labelFault({ columns, rows, left, top, stepAcross, stepDown }: Labels, paper: PaperName, size: Size) {
  const [across, down] = [stepAcross / 10, stepDown / 10];
  if ((columns > 1 && across < size.width) || (rows > 1 && down < size.height)) return 'overlap';
  const right = left / 10 + (columns - 1) * across + size.width;
  const bottom = top / 10 + (rows - 1) * down + size.height;
  // A tenth is lost to rounding.
  return right > PAPERS[paper].width + 0.1 || bottom > PAPERS[paper].height + 0.1 ? 'beyond' : null;
}

/** Where pieces go on a sheet (their trim's top left), how much of their bleed neighbours leave each other, whether they are still to be cut, and what does not add up. */
export type SheetPlan = {
  places: { x: number; y: number }[];
  bleed: number;
  cut: boolean;
  fault: LabelFault | null;
};

/** Plans a sheet of pieces of a size; without places where none has room or its measures do not add up. Millimetres. */
export function planSheet({ paper, labels }: Pick<SheetChoice, 'paper' | 'labels'>, size: Size): SheetPlan {
  if (!labels) return { places: placesOn(paper, size), bleed: SHEET_BLEED_MM, cut: true, fault: null };
  const fault = labelFault(labels, paper, size);
  if (fault) return { places: [], bleed: 0, cut: false, fault };
  const { columns, rows, left, top } = labels;
  const [across, down] = [labels.stepAcross / 10, labels.stepDown / 10];
  const apart = Math.min(columns > 1 ? across - size.width : Infinity, rows > 1 ? down - size.height : Infinity);
  return {
    places: Array.from({ length: columns * rows }, (_, at) => ({
      x: left / 10 + (at % columns) * across,
      y: top / 10 + Math.floor(at / columns) * down,
    })),
    ...{ bleed: Math.min(SHEET_BLEED_MM, apart / 2), cut: false, fault: null },
  };
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
