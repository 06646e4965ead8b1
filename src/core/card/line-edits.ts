import { cellOf, type CardCell, type Edit, type LineCell } from './edits';
import { CHANNELS, type Channel } from './channels';
import { same } from './same';
import type { Draft, Line } from './schema';

/** The edit that sets what belongs to the card as a whole; none where it stands there already. */
export const editCard = <C extends CardCell>(draft: Draft, cell: C, to: Draft[C]): Edit[] =>
  same(draft[cell], to) ? [] : [{ edit: 'card', cell, from: draft[cell], to }];

/** The edit that sets one cell of a line; none where it stands there already. */
export function editCell(line: Line, cell: LineCell, to: unknown): Edit[] {
  const from = cellOf(line, cell);
  return same(from, to) ? [] : [{ edit: 'cell', line: line.detail, cell, from, to }];
}

/** The edits that set the ticks of a line, those of other channels left as they are. */
export const editTicks = (line: Line, ticks: Partial<Record<Channel, boolean>>): Edit[] =>
  CHANNELS.flatMap((channel) => editCell(line, channel, ticks[channel] ?? line.ticks[channel]));

/** The edits that put lines behind another one, in their order; behind null they come first. */
export const addLines = (after: string | null, more: Line[]): Edit[] =>
  more.map((line, at) => ({ edit: 'add', line, after: at > 0 ? more[at - 1]!.detail : after }));

/** The edit that takes a line of the card's own away. */
export function removeLine(lines: Line[], id: string): Edit[] {
  const at = lines.findIndex(({ detail }) => detail === id);
  return at < 0 ? [] : [{ edit: 'remove', line: lines[at]!, after: lines[at - 1]?.detail ?? null }];
}

/** The edit that moves the line at one place to another. */
export function moveLine(lines: Line[], from: number, to: number): Edit[] {
  const was = lines.map(({ detail }) => detail);
  const is = was.filter((_, at) => at !== from);
  is.splice(to, 0, was[from]!);
  return from === to ? [] : [{ edit: 'order', from: was, to: is }];
}
