import type { KeyboardEvent, RefObject } from 'react';

const STEPS: Record<string, [number, number]> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
};

/** The ledger from the keyboard: arrows move between cells, Alt with an arrow moves the line, Alt with 0 unticks it. */
export function useLedgerKeys(
  table: RefObject<HTMLTableElement | null>,
  acts: { move: (line: string, by: number) => void; nowhere: (line: string) => void },
) {
  const focusCell = (row: number, column: number) =>
    table.current?.querySelector<HTMLElement>(`[data-row="${row}"][data-column="${column}"]`)?.focus();

  function keys(event: KeyboardEvent) {
    const target = event.target as HTMLElement;
    const cell = target.closest<HTMLElement>('[data-row]');
    const types = target instanceof HTMLInputElement && target.type !== 'checkbox';
    if (!cell || types || target instanceof HTMLTextAreaElement) return;
    const row = Number(cell.dataset.row);
    const column = Number(cell.dataset.column);
    const line = cell.closest<HTMLElement>('tr')?.dataset.line;
    // The key, not its letter: with Alt it may write another one.
    if (event.altKey && /^(Digit|Numpad)0$/.test(event.code) && line) {
      event.preventDefault();
      return acts.nowhere(line);
    }
    const step = STEPS[event.key];
    if (!step) return;
    event.preventDefault();
    if (event.altKey) {
      if (step[0] !== 0 && line) acts.move(line, step[0]);
      return;
    }
    let next = column + step[1];
    // A cell that cannot be reached, such as a lock, is stepped over.
    for (; step[1] !== 0 && next >= 0 && next < 12; next += step[1])
      if (table.current?.querySelector(`[data-row="${row}"][data-column="${next}"]`)) break;
    focusCell(row + step[0], next);
  }

  return { focusCell, keys };
}
