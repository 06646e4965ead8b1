/** How a cell stood in its sheet, where that matters: a number or a date of the program, or an error that a formula gave. */
export const CELL_KINDS = ['number', 'date', 'error'] as const;
export type CellKind = (typeof CELL_KINDS)[number];

/** A cell as text, with the kind it had where it was no text: numbers as their digits, dates as ISO 8601. Empty cells are ''. */
export type Cell = string | { text: string; was: CellKind };

export const textOf = (cell: Cell | undefined): string => (typeof cell === 'string' ? cell : (cell?.text ?? ''));
export const kindOf = (cell: Cell | undefined): CellKind | null => (typeof cell === 'object' ? cell.was : null);
