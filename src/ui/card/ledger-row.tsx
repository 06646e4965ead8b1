'use client';
import { useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { CHANNELS, isPrivate, labelOf, NAME_LINE, withWording, type Channel, type Line } from '@/core/card';
import { CARD, FRAME } from '@/core/messages';
import { cleanLine, defaultLabel, shownValue, writtenName, type Detail, type PersonRecord } from '@/core/record';
import { EditableCell } from './editable-cell';

type Props = {
  line: Line;
  row: number;
  last: number;
  detail: Detail | null;
  record: PersonRecord;
  country: string;
  channel: Channel;
  onChange: (line: Line) => void;
  onMove: (by: number) => void;
};

/** One row of the ledger. Columns for the arrow keys: 0 grip, 1 label, 2 value, then a tick for each channel. */
export function LedgerRow({ line, row, last, detail, record, country, channel, onChange, onMove }: Props) {
  const isName = line.detail === NAME_LINE;
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition, isDragging } = useSortable({
    id: line.detail,
    disabled: isName,
  });
  const label = detail ? labelOf(line, detail) : FRAME.name;
  const ofRecord = detail ? shownValue(detail) : writtenName(record.name);
  const worded = detail ? withWording(detail, line.wording, country) : null;
  const value = worded?.ok ? shownValue(worded.value) : (line.wording ?? ofRecord);
  const title = label || ofRecord;

  function word(typed: string) {
    const text = typed.trim();
    if (!text || text === ofRecord) return onChange({ ...line, wording: null });
    const read = detail ? withWording(detail, text, country) : null;
    if (read && !read.ok) return read.problem;
    onChange({ ...line, wording: detail ? text : cleanLine(text).text.slice(0, 200) });
  }

  function relabel(typed: string) {
    const text = cleanLine(typed).text.slice(0, 120);
    onChange({ ...line, label: detail && text === defaultLabel(detail) ? null : text });
  }

  return (
    <tr
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={`${isDragging ? 'dragging' : ''} ${line.ticks.page || line.ticks.file ? '' : 'nowhere'}`}
    >
      <td className="grip">
        {isName ? null : (
          <button
            type="button"
            ref={setActivatorNodeRef}
            {...attributes}
            {...listeners}
            data-row={row}
            data-column={0}
            aria-label={CARD.moveLine(title)}
            onKeyDown={(event) => {
              if (event.key !== 'Enter' && event.key !== ' ') return;
              event.preventDefault();
              onMove(row === last ? 1 - last : 1);
            }}
          >
            <svg width="8" height="14" viewBox="0 0 8 14" aria-hidden="true">
              {[2, 7, 12].map((y) => [2, 6].map((x) => <circle key={`${x} ${y}`} cx={x} cy={y} r="1.2" />))}
            </svg>
          </button>
        )}
      </td>
      <td className="label">
        {isName ? (
          FRAME.name
        ) : (
          <EditableCell
            row={row}
            column={1}
            value={label}
            empty={CARD.noLabel}
            name={CARD.labelOf(title)}
            onCommit={relabel}
          />
        )}
      </td>
      <td className="value">
        {detail?.kind === 'photo' ? (
          <span className="photo-value">
            <img src={`/api/pictures/${detail.picture}`} alt="" width={30} height={30} /> {CARD.withTheCard}
          </span>
        ) : (
          <EditableCell
            row={row}
            column={2}
            value={value}
            multiline={detail?.kind === 'note' || detail?.kind === 'own'}
            name={CARD.wordingOf(title)}
            onCommit={word}
          />
        )}
        {line.wording !== null && (
          <span className="own">
            {CARD.differs}
            <button
              type="button"
              className="plain"
              onClick={() => onChange({ ...line, wording: null })}
              title={CARD.backTo(ofRecord)}
            >
              {CARD.revert}
            </button>
          </span>
        )}
        {detail && isPrivate(detail, record) && <span className="private">{CARD.private}</span>}
      </td>
      {CHANNELS.map((each, at) => (
        <td key={each} className={`channel${each === channel ? ' on' : ''}`}>
          {isName ? (
            <span className="lock" title={CARD.nameNote}>
              <svg width="13" height="14" viewBox="0 0 13 14" role="img" aria-label={CARD.nameLocked(each)}>
                <rect x="1" y="6" width="11" height="7.5" rx="1" />
                <path d="M3.5 6V4a3 3 0 0 1 6 0v2" />
              </svg>
            </span>
          ) : (
            <input
              type="checkbox"
              data-row={row}
              data-column={3 + at}
              checked={line.ticks[each]}
              aria-label={CARD.tick(title, each)}
              onChange={(event) => onChange({ ...line, ticks: { ...line.ticks, [each]: event.target.checked } })}
            />
          )}
        </td>
      ))}
    </tr>
  );
}
