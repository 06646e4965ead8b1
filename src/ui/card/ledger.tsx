'use client';
import {
  closestCenter,
  DndContext,
  MouseSensor,
  TouchSensor,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import { arrayMove, SortableContext, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { useRef, type KeyboardEvent } from 'react';
import { CHANNELS, NAME_LINE, type Channel, type Line } from '@/core/card';
import { CARD, CHANNEL_WORDS } from '@/core/messages';
import type { CardOnTable } from './card-on-table';
import { LedgerRow } from './ledger-row';

type Props = {
  card: CardOnTable;
  lines: Line[];
  country: string;
  channel: Channel;
  onChannel: (channel: Channel) => void;
  onChange: (lines: Line[]) => void;
};

/** The ledger: lines down, channels across; a tick says that this line goes out on that channel. */
export function Ledger({ card, lines, country, channel, onChannel, onChange }: Props) {
  const table = useRef<HTMLTableElement>(null);
  const sensors = useSensors(
    useSensor(MouseSensor, { activationConstraint: { distance: 4 } }),
    useSensor(TouchSensor, { activationConstraint: { delay: 150, tolerance: 8 } }),
  );
  const replace = (next: Line) => onChange(lines.map((line) => (line.detail === next.detail ? next : line)));

  function move(from: number, to: number) {
    // The name stays first: it heads every form of a card.
    if (to < 1 || to >= lines.length || from < 1) return;
    onChange(arrayMove(lines, from, to));
    requestAnimationFrame(() => focusCell(to, 0));
  }

  function focusCell(row: number, column: number) {
    table.current?.querySelector<HTMLElement>(`[data-row="${row}"][data-column="${column}"]`)?.focus();
  }

  function keys(event: KeyboardEvent) {
    const cell = (event.target as HTMLElement).closest<HTMLElement>('[data-row]');
    if (
      !cell ||
      (event.target instanceof HTMLInputElement && event.target.type !== 'checkbox') ||
      event.target instanceof HTMLTextAreaElement
    )
      return;
    const row = Number(cell.dataset.row);
    const column = Number(cell.dataset.column);
    const step = { ArrowUp: [-1, 0], ArrowDown: [1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1] }[event.key];
    if (!step) return;
    event.preventDefault();
    if (event.altKey) {
      if (step[0] !== 0) move(row, row + step[0]!);
      return;
    }
    focusCell(row + step[0]!, column + step[1]!);
  }

  const dragged = ({ active, over }: DragEndEvent) => {
    const [from, to] = [active, over].map((end) => lines.findIndex((line) => line.detail === end?.id));
    if (from !== undefined && to !== undefined && from !== to) move(from, to);
  };

  return (
    <DndContext id="ledger" sensors={sensors} collisionDetection={closestCenter} onDragEnd={dragged}>
      <div className="ledger">
        <table ref={table} onKeyDown={keys}>
          <thead>
            <tr>
              <th className="grip">
                <span className="visually-hidden">{CARD.order}</span>
              </th>
              <th className="label">{CARD.line}</th>
              <th>{CARD.reads}</th>
              {CHANNELS.map((each) => (
                <th key={each} className={`channel${each === channel ? ' on' : ''}`} scope="col">
                  <button
                    type="button"
                    aria-pressed={each === channel}
                    onClick={() => onChannel(each)}
                    title={CARD.seeChannel(each)}
                  >
                    {CHANNEL_WORDS[each]}
                  </button>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            <SortableContext items={lines.map((line) => line.detail)} strategy={verticalListSortingStrategy}>
              {lines.map((line, row) => (
                <LedgerRow
                  key={line.detail}
                  line={line}
                  row={row}
                  last={lines.length - 1}
                  detail={card.record.details.find((detail) => detail.id === line.detail) ?? null}
                  record={card.record}
                  country={country}
                  channel={channel}
                  onChange={replace}
                  onMove={(by) => move(row, row + by)}
                />
              ))}
            </SortableContext>
          </tbody>
          <tfoot>
            <tr>
              <td />
              <td colSpan={2}>
                {CARD.foot(lines.length, lines.filter((line) => !line.ticks.page && !line.ticks.file).length)}
              </td>
              {CHANNELS.map((each) => (
                <td key={each} className={`channel${each === channel ? ' on' : ''}`}>
                  {lines.filter((line) => line.detail === NAME_LINE || line.ticks[each]).length}
                </td>
              ))}
            </tr>
          </tfoot>
        </table>
        <p className="keys">{CARD.keys}</p>
      </div>
    </DndContext>
  );
}
