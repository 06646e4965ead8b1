import { useLayoutEffect, type FocusEvent, type KeyboardEvent, type RefObject } from 'react';

/** What an arrow goes along, and which way. */
const STEPS: Record<string, { along: 'row' | 'column'; by: 1 | -1 }> = {
  ArrowUp: { along: 'row', by: -1 },
  ArrowDown: { along: 'row', by: 1 },
  ArrowLeft: { along: 'column', by: -1 },
  ArrowRight: { along: 'column', by: 1 },
};

const STOP = '[data-row][tabindex="0"]';
const FIRST = '[data-row]:not(:disabled)';

/** The cell that an element of the ledger is in; a field that a cell has become while it is edited counts as one. */
const cellOf = (target: EventTarget): HTMLElement | null =>
  target instanceof HTMLElement ? target.closest<HTMLElement>('[data-row]') : null;

/**
 * The ledger from the keyboard, as a grid (WAI-ARIA Authoring Practices, Grid pattern): one stop for Tab, which stays where one
 * was; arrows move between cells, Tab from an edited cell to the next one, Alt with an arrow moves the line, Alt with 0 unticks it.
 */
export function useLedgerKeys(
  table: RefObject<HTMLTableElement | null>,
  acts: { move: (line: string, by: number) => void; nowhere: (line: string) => void },
) {
  // Cells come with tabindex -1; the stop is put by hand, so that moving it draws nothing anew.
  useLayoutEffect(() => {
    if (!table.current?.querySelector(STOP)) table.current?.querySelector(FIRST)?.setAttribute('tabindex', '0');
  });

  const focusCell = (row: number, column: number) =>
    table.current?.querySelector<HTMLElement>(`[data-row="${row}"][data-column="${column}"]`)?.focus();

  /** The next cell from here along its row or column; cells that cannot be reached, such as locks, are stepped over. */
  function nextFrom(cell: HTMLElement, along: 'row' | 'column', by: 1 | -1): HTMLElement | undefined {
    const fixed = along === 'row' ? 'column' : 'row';
    const at = (each: HTMLElement) => Number(each.dataset[along]);
    return [
      ...(table.current?.querySelectorAll<HTMLElement>(`[data-${fixed}="${cell.dataset[fixed]}"]:not(:disabled)`) ??
        []),
    ]
      .filter((each) => (at(each) - at(cell)) * by > 0)
      .sort((a, b) => (at(a) - at(b)) * by)[0];
  }

  function focused({ target }: FocusEvent) {
    const cell = cellOf(target);
    if (!cell) return;
    table.current?.querySelectorAll(STOP).forEach((each) => each.setAttribute('tabindex', '-1'));
    // A field goes once it is left; the end of its row stays.
    const row = table.current?.querySelectorAll(`[data-row="${cell.dataset.row}"]`);
    (isField(cell) ? row?.item(row.length - 1) : cell)?.setAttribute('tabindex', '0');
  }

  function keys(event: KeyboardEvent) {
    const cell = cellOf(event.target);
    if (!cell) return;
    if (isField(cell)) {
      const next = event.key === 'Tab' && nextFrom(cell, 'column', event.shiftKey ? -1 : 1);
      if (!next) return;
      event.preventDefault();
      return next.focus();
    }
    const line = cell.closest<HTMLElement>('tr')?.dataset.line;
    // The key, not its letter: with Alt it may write another one.
    if (event.altKey && /^(Digit|Numpad)0$/.test(event.code) && line) {
      event.preventDefault();
      return acts.nowhere(line);
    }
    const step = STEPS[event.key];
    if (!step) return;
    event.preventDefault();
    if (!event.altKey) return nextFrom(cell, step.along, step.by)?.focus();
    if (step.along === 'row' && line) acts.move(line, step.by);
  }

  return { focusCell, keys, focused };
}

const isField = (cell: HTMLElement): boolean => cell.matches('input:not([type="checkbox"]), textarea');
