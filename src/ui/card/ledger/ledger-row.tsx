'use client';
import { useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { memo } from 'react';
import {
  detailOn,
  editCell,
  goesOut,
  isWarned,
  labelOf,
  NAME_LINE,
  nameOn,
  type Channel,
  type Edit,
  type Line,
  type Privacy,
} from '@/core/card';
import { CARD, FRAME } from '@/core/words';
import { cleanLine, defaultLabel, shownValue, writtenName, type Detail, type PersonRecord } from '@/core/record';
import type { Typing } from '@/ui/card/card-on-table';
import { ClashNote } from './clash-note';
import { ClosedCell, useClosed } from '@/ui/studio/owned';
import { EditableCell } from './editable-cell';
import { Chevron, Grip, LockMark } from './marks';

export type RowActs = {
  onEdit: (edits: Edit[]) => void;
  onMove: (line: string, by: number) => void;
  onTyping: (typing: Typing | null) => void;
  onOpen: (line: string) => void;
  onAdopt: (line: string) => void;
  onSettle: (clash: Edit, mine: boolean) => void;
};

type Props = RowActs & {
  line: Line;
  row: number;
  detail: Detail | null;
  name: PersonRecord['name'];
  /** Why this line goes nowhere by itself. */
  privacy: Privacy | null;
  country: string;
  columns: readonly Channel[];
  channel: Channel;
  /** Bytes that this line adds to a frozen code and tag. */
  codeCost: number | undefined;
  tagCost: number | undefined;
  open: boolean;
  /** What was being typed here when the page was left. */
  left: Typing | null;
  clashes: readonly Edit[];
};

/** One row of the ledger. Columns for the arrow keys: 0 grip, 1 label, 2 value and its acts, then a tick for each channel, then more. */
export const LedgerRow = memo(function LedgerRow(props: Props) {
  const { line, row, detail, country, columns, channel, onEdit, onTyping } = props;
  const isName = line.detail === NAME_LINE;
  const closed = useClosed(detail ?? 'name');
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition, isDragging } = useSortable({
    id: line.detail,
    disabled: isName,
  });
  const label = detail ? labelOf(line, detail) : FRAME.name;
  const asRecord = { name: props.name, details: [], kept: [] };
  const ofRecord = detail ? shownValue(detail) : writtenName(props.name);
  const out = detail ? detailOn(line, detail, country) : null;
  const value = detail
    ? out?.ok
      ? shownValue(out.value)
      : (line.wording ?? ofRecord)
    : writtenName(nameOn(asRecord, line));
  const whole = line.wording ?? ofRecord;
  const title = label || ofRecord;
  const differs = line.wording !== null && line.wording !== ofRecord;

  function word(typed: string) {
    const text = typed.trim();
    if (line.own) {
      const read = detailOn({ ...line, wording: text, part: null }, line.own, country);
      if (!read.ok) return read.problem;
      return onEdit(editCell(line, 'own', read.value));
    }
    if (!text || text === ofRecord) return onEdit(editCell(line, 'wording', null));
    const read = detail ? detailOn({ ...line, wording: text }, detail, country) : null;
    if (read && !read.ok) return read.problem;
    onEdit(editCell(line, 'wording', detail ? text : cleanLine(text).text.slice(0, 200)));
  }

  function relabel(typed: string) {
    const text = cleanLine(typed).text.slice(0, 120);
    onEdit(editCell(line, 'label', detail && text === defaultLabel(detail) ? null : text));
  }

  return (
    <tr
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={`line ${isDragging ? 'dragging' : ''} ${goesOut(line) ? '' : 'nowhere'} ${line.gap ? 'gap' : ''} stands-${line.emphasis}`}
      data-line={line.detail}
    >
      <td className="grip">
        {isName ? null : (
          <button
            type="button"
            ref={setActivatorNodeRef}
            {...attributes}
            {...listeners}
            tabIndex={-1}
            data-row={row}
            data-column={0}
            aria-label={CARD.moveLine(title)}
          >
            <Grip />
          </button>
        )}
      </td>
      <th scope="row" className="label">
        {isName ? (
          FRAME.name
        ) : closed ? (
          label
        ) : (
          <EditableCell
            row={row}
            column={1}
            value={label}
            empty={CARD.noLabel}
            name={CARD.labelOf(title)}
            left={props.left?.cell === 'label' ? props.left.text : null}
            onTyping={(text) => onTyping(text === null ? null : { line: line.detail, cell: 'label', text })}
            onCommit={relabel}
          />
        )}
      </th>
      <td className="value">
        {detail?.kind === 'photo' || detail?.kind === 'logo' ? (
          <span className={`photo-value ${detail.kind}`}>
            <img src={`/api/pictures/${detail.picture}`} alt="" height={30} /> {CARD.withTheCard}
          </span>
        ) : closed ? (
          <ClosedCell row={row} column={2} value={value} name={CARD.wordingOf(title)} reason={closed} />
        ) : (
          <EditableCell
            row={row}
            column={2}
            value={whole}
            shown={value}
            multiline={detail?.kind === 'note' || detail?.kind === 'own' || detail?.kind === 'hours'}
            name={CARD.wordingOf(title)}
            left={props.left?.cell === 'wording' ? props.left.text : null}
            onTyping={(text) => onTyping(text === null ? null : { line: line.detail, cell: 'wording', text })}
            onCommit={word}
          />
        )}
        {line.part && <span className="cut">{CARD.parts[line.part]}</span>}
        {(differs || line.own) && (
          <span className="own">
            {line.own ? CARD.onlyHere : CARD.differs}
            {!closed && (
              <button
                type="button"
                className="plain"
                tabIndex={-1}
                data-row={row}
                data-column={2.3}
                onClick={() => props.onAdopt(line.detail)}
                title={CARD.adoptNote}
              >
                {CARD.adopt}
              </button>
            )}
            {!line.own && (
              <button
                type="button"
                className="plain"
                tabIndex={-1}
                data-row={row}
                data-column={2.6}
                onClick={() => onEdit(editCell(line, 'wording', null))}
                title={CARD.backTo(ofRecord)}
              >
                {CARD.revert}
              </button>
            )}
          </span>
        )}
        {isWarned(props.privacy) && goesOut(line) && (
          <span className="private" title={CARD.why[props.privacy]}>
            {CARD.private}
          </span>
        )}
        {props.privacy && !goesOut(line) && <span className="why">{CARD.why[props.privacy]}</span>}
        {props.clashes.map((clash, at) => (
          <ClashNote key={at} clash={clash} line={line} onSettle={props.onSettle} />
        ))}
      </td>
      {columns.map((each, at) => {
        const cost = each === 'code' ? props.codeCost : each === 'tag' ? props.tagCost : undefined;
        return (
          <td key={each} className={`channel of-${each}${each === channel ? ' on' : ''}`}>
            {isName ? (
              <LockMark label={CARD.nameLocked(each)} note={CARD.nameNote} />
            ) : (
              <input
                type="checkbox"
                tabIndex={-1}
                data-row={row}
                data-column={3 + at}
                checked={line.ticks[each]}
                disabled={(each === 'code' || each === 'tag') && (detail?.kind === 'photo' || detail?.kind === 'logo')}
                aria-label={CARD.tick(title, each)}
                onChange={(event) => onEdit(editCell(line, each, event.target.checked))}
              />
            )}
            {cost !== undefined && (
              <span className="cost" title={CARD.cost(cost)}>
                {cost}
              </span>
            )}
          </td>
        );
      })}
      <td className="more">
        <button
          type="button"
          tabIndex={-1}
          data-row={row}
          data-column={3 + columns.length}
          aria-label={CARD.settingsOf(title)}
          aria-expanded={props.open}
          onClick={() => props.onOpen(line.detail)}
        >
          <Chevron up={props.open} />
        </button>
      </td>
    </tr>
  );
});
