'use client';
import dynamic from 'next/dynamic';
import {
  closestCenter,
  DndContext,
  MouseSensor,
  TouchSensor,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import { SortableContext, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { Fragment, memo, useMemo, useRef, useState } from 'react';
import {
  addLines,
  backToLayout,
  detailOf,
  editCell,
  editTicks,
  FIRST_CHANNELS,
  labelOf,
  moveLine,
  NAME_LINE,
  NOWHERE,
  removeLine,
  type Channel,
  type Edit,
  type Line,
} from '@/core/card';
import type { Look } from '@/core/look';
import { CARD } from '@/core/words';
import { shownValue, type DetailKind, type PersonRecord } from '@/core/record';
import { useRoom } from '@/ui/studio/use-room';
import { useStable } from '@/ui/studio/use-stable';
import { AddLine } from './add-line';
import type { CardOnTable, Typing } from '@/ui/card/card-on-table';
import { LedgerFoot, type Costs } from './ledger-foot';
import { LedgerHead } from './ledger-head';
import { LedgerRow } from './ledger-row';
import { LedgerTools, matches, type Shown } from './ledger-tools';
import { useLedgerKeys } from './use-ledger-keys';
import { usePrivacies } from './use-privacies';

// Settings come when a line is first opened.
const HouseRows = dynamic(() => import('./house-rows').then((made) => made.HouseRows));
const UsualLines = dynamic(() => import('./usual-lines').then((made) => made.UsualLines));
const LineSettings = dynamic(() => import('./line-settings').then((made) => made.LineSettings));

type Props = {
  card: CardOnTable;
  record: PersonRecord;
  lines: Line[];
  look: Look;
  country: string;
  zone: string;
  channel: Channel;
  costs: Costs;
  left: Typing | null;
  clashes: readonly Edit[];
  onChannel: (channel: Channel) => void;
  /** A column that stays away until it is wanted. */
  onWanted: (channel: Channel) => void;
  onEdit: (edits: Edit[]) => void;
  onBackToLayout: (lines: Line[]) => void;
  onTyping: (typing: Typing | null) => void;
  onAdopt: (line: string) => void;
  onSettle: (clash: Edit, mine: boolean) => void;
};

/** What lines, their words and their handles need beside ticks, and the column of a channel, in CSS pixels. */
const ROOM_FOR_WORDS = 330;
const ROOM_FOR_TICKS = 53;

const NO_CLASHES: readonly Edit[] = [];
/** What a grip says to those who do not drag. */
const GRIP = { screenReaderInstructions: { draggable: CARD.gripKeys } };

/** The ledger: lines down, channels across; a tick says that this line goes out on that channel. */
export const Ledger = memo(function Ledger(props: Props) {
  const { card, record, lines, country, channel, costs } = props;
  const whole = useRef<HTMLDivElement>(null);
  const narrow = !useRoom(whole, ROOM_FOR_WORDS + card.channels.length * ROOM_FOR_TICKS);
  // A phone has room for two columns: page and contact file, or page and the small channel that is looked at.
  const columns = useMemo(
    () =>
      !narrow
        ? card.channels
        : FIRST_CHANNELS.includes(channel)
          ? FIRST_CHANNELS
          : [...FIRST_CHANNELS.slice(0, 1), channel],
    [narrow, card.channels, channel],
  );
  const span = 4 + columns.length;
  const table = useRef<HTMLTableElement>(null);
  const [filter, setFilter] = useState('');
  const [shown, setShown] = useState<Shown>('all');
  const [open, setOpen] = useState<string | null>(null);
  /** What was done from the keyboard, for those who do not see it. */
  const [said, setSaid] = useState('');
  const [below, setBelow] = useState<string | null>(null);
  const [wanted, setWanted] = useState<{ kind: DetailKind; label: string | null } | null>(null);
  const sensors = useSensors(
    useSensor(MouseSensor, { activationConstraint: { distance: 4 } }),
    useSensor(TouchSensor, { activationConstraint: { delay: 150, tolerance: 8 } }),
  );
  const details = useMemo(() => new Map(lines.map((line) => [line.detail, detailOf(line, record)])), [lines, record]);
  const shownDetails = useMemo(() => [...details.values()].flatMap((detail) => detail ?? []), [details]);
  const privacies = usePrivacies(shownDetails, record);
  const visible = useMemo(
    () => lines.filter((line) => matches(line, details.get(line.detail) ?? null, record, filter, shown)),
    [lines, details, record, filter, shown],
  );
  const ids = useMemo(() => visible.map((line) => line.detail), [visible]);
  const { focusCell, keys, focused } = useLedgerKeys(table, {
    move: (line, by) => move(line, by),
    nowhere: (id) => {
      const line = lines.find(({ detail }) => detail === id);
      if (!line || id === NAME_LINE) return;
      props.onEdit(editTicks(line, NOWHERE));
      setSaid(CARD.unticked(titleOf(id)));
    },
  });
  const titleOf = (id: string) => {
    const [line, detail] = [lines.find((each) => each.detail === id), details.get(id)];
    return line && detail ? labelOf(line, detail) || shownValue(detail) : '';
  };
  const edit = useStable(props.onEdit);
  const move = useStable((id: string, by: number) => {
    const from = lines.findIndex((line) => line.detail === id);
    const to = from + by;
    // The name stays first: it heads every form of a card.
    if (from < 1 || to < 1 || to >= lines.length) return;
    props.onEdit(moveLine(lines, from, to));
    setSaid(CARD.movedTo(titleOf(id), to + 1, lines.length));
    requestAnimationFrame(() => focusCell(ids.indexOf(id) + by, 0));
  });
  const openRow = useStable((id: string) => setOpen(open === id ? null : id));
  const typing = useStable(props.onTyping);
  const adopt = useStable(props.onAdopt);
  const settle = useStable(props.onSettle);

  const dragged = ({ active, over }: DragEndEvent) => {
    const [from, to] = [active, over].map((end) => lines.findIndex((line) => line.detail === end?.id));
    if (from !== undefined && to !== undefined && from !== to) move(lines[from]!.detail, to - from);
  };

  function add(after: string | null, more: Line[]) {
    const at = after === null ? lines.length : lines.findIndex((line) => line.detail === after) + 1;
    props.onEdit(addLines(after ?? lines.at(-1)?.detail ?? null, more));
    setBelow(null);
    setWanted(null);
    if (after !== null) requestAnimationFrame(() => focusCell(at, 2));
  }
  const addLine = (after: string | null) => (
    <AddLine
      record={record}
      isPrivate={card.isPrivate}
      country={country}
      zone={props.zone}
      wanted={wanted}
      span={span}
      onAdd={(more) => add(after, more)}
      onClose={after === null && !wanted ? null : () => (setBelow(null), setWanted(null))}
      key={wanted ? `${wanted.kind} ${wanted.label}` : 'any'}
    />
  );

  return (
    <DndContext
      id="ledger"
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={dragged}
      accessibility={GRIP}
    >
      <div className="ledger" data-narrow={narrow || undefined} ref={whole}>
        <LedgerTools
          filter={filter}
          onFilter={setFilter}
          shown={shown}
          onShown={setShown}
          columns={card.channels}
          channel={channel}
          onChannel={props.onChannel}
          onWanted={props.onWanted}
          onBackToLayout={() => props.onBackToLayout(backToLayout(lines, record))}
        />
        <table
          ref={table}
          role="grid"
          aria-label={CARD.ledger}
          onKeyDown={keys}
          onFocus={focused}
          data-columns={columns.length}
        >
          <LedgerHead
            columns={columns}
            channel={channel}
            lines={visible}
            onChannel={props.onChannel}
            onTickAll={(column, on) => {
              const others = visible.filter(({ detail }) => detail !== NAME_LINE);
              props.onEdit(others.flatMap((line) => editCell(line, column, on)));
            }}
          />
          <tbody>
            <SortableContext items={ids} strategy={verticalListSortingStrategy}>
              {visible.map((line, row) => (
                <Fragment key={line.detail}>
                  <LedgerRow
                    line={line}
                    row={row}
                    detail={details.get(line.detail) ?? null}
                    name={record.name}
                    privacy={privacies.get(line.detail) ?? null}
                    country={country}
                    columns={columns}
                    channel={channel}
                    codeCost={costs.code?.lines.get(line.detail)}
                    tagCost={costs.tag?.lines.get(line.detail)}
                    open={open === line.detail}
                    left={props.left?.line === line.detail ? props.left : null}
                    clashes={clashesOf(props.clashes, line.detail)}
                    onEdit={edit}
                    onMove={move}
                    onTyping={typing}
                    onOpen={openRow}
                    onAdopt={adopt}
                    onSettle={settle}
                  />
                  {open === line.detail && (
                    <LineSettings
                      line={line}
                      detail={details.get(line.detail) ?? null}
                      columns={card.channels}
                      span={span}
                      onEdit={edit}
                      onMove={(by) => move(line.detail, by)}
                      onAddBelow={() => (setBelow(line.detail), setOpen(null))}
                      onRemove={() => props.onEdit(removeLine(lines, line.detail))}
                      onClose={() => (setOpen(null), focusCell(row, 2))}
                    />
                  )}
                  {below === line.detail && addLine(line.detail)}
                </Fragment>
              ))}
            </SortableContext>
            {visible.length === 0 && (
              <tr>
                <td />
                <td colSpan={span - 1}>{CARD.noLines}</td>
              </tr>
            )}
            {below === null && addLine(null)}
          </tbody>
          {card.house && card.house.lines.length > 0 && (
            <HouseRows card={card.id} house={card.house} look={props.look} columns={columns} channel={channel} />
          )}
          <LedgerFoot lines={lines} columns={columns} channel={channel} costs={costs} />
        </table>
        {card.start && (
          <UsualLines
            start={card.start}
            lines={lines}
            details={details}
            onWanted={(wanted) => (setBelow(null), setWanted(wanted))}
          />
        )}
        <p className="keys">{CARD.keys}</p>
        <p className="visually-hidden" role="status">
          {said}
        </p>
      </div>
    </DndContext>
  );
});

/** The clashes of a line; always the same empty list where there are none, so that its row stays as it is. */
function clashesOf(clashes: readonly Edit[], line: string): readonly Edit[] {
  const own = clashes.filter((clash) => clash.edit === 'cell' && clash.line === line);
  return own.length > 0 ? own : NO_CLASHES;
}
