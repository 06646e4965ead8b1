'use client';
import { useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import {
  CHANNEL_WORDS,
  CHANNELS,
  isPrivate,
  labelOf,
  NAME_LINE,
  withWording,
  type Channel,
  type Line,
} from '@/core/card';
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
  const label = detail ? labelOf(line, detail) : 'Name';
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
            aria-label={`Move ${title}: drag, or Alt with an arrow`}
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
          'Name'
        ) : (
          <EditableCell
            row={row}
            column={1}
            value={label}
            empty="no label"
            name={`Label of ${title}`}
            onCommit={relabel}
          />
        )}
      </td>
      <td className="value">
        {detail?.kind === 'photo' ? (
          <span className="photo-value">
            <img src={`/api/pictures/${detail.picture}`} alt="" width={30} height={30} /> with the card
          </span>
        ) : (
          <EditableCell
            row={row}
            column={2}
            value={value}
            multiline={detail?.kind === 'note' || detail?.kind === 'own'}
            name={`Wording of ${title}`}
            onCommit={word}
          />
        )}
        {line.wording !== null && (
          <span className="own">
            differs from record
            <button
              type="button"
              className="plain"
              onClick={() => onChange({ ...line, wording: null })}
              title={`Back to “${ofRecord}”`}
            >
              revert
            </button>
          </span>
        )}
        {detail && isPrivate(detail, record) && <span className="private">private</span>}
      </td>
      {CHANNELS.map((each, at) => (
        <td key={each} className={`channel${each === channel ? ' on' : ''}`}>
          {isName ? (
            <span className="lock" title="Every card carries the name: a contact file needs one (RFC 6350, 6.2.1)">
              <svg
                width="13"
                height="14"
                viewBox="0 0 13 14"
                role="img"
                aria-label={`Always on ${CHANNEL_WORDS[each].toLowerCase()}: a contact file needs a name`}
              >
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
              aria-label={`${title} on ${CHANNEL_WORDS[each].toLowerCase()}`}
              onChange={(event) => onChange({ ...line, ticks: { ...line.ticks, [each]: event.target.checked } })}
            />
          )}
        </td>
      ))}
    </tr>
  );
}
