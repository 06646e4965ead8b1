import { NAME_LINE, type Channel, type Line } from '@/core/card';
import { CARD, CHANNEL_WORDS } from '@/core/words';

type Props = {
  columns: readonly Channel[];
  channel: Channel;
  /** The lines that the tick of a column's head concerns. */
  lines: Line[];
  onChannel: (channel: Channel) => void;
  onTickAll: (channel: Channel, on: boolean) => void;
};

/** The heads of the columns, above the first row for the arrow keys: each chooses its channel's specimen, and ticks its column as a whole. */
export function LedgerHead({ columns, channel, lines, onChannel, onTickAll }: Props) {
  const others = lines.filter(({ detail }) => detail !== NAME_LINE);
  return (
    <thead>
      <tr>
        <th className="grip">
          <span className="visually-hidden">{CARD.order}</span>
        </th>
        <th className="label">{CARD.line}</th>
        <th>{CARD.reads}</th>
        {columns.map((each, at) => {
          const ticked = others.filter((line) => line.ticks[each]).length;
          return (
            <th key={each} className={`channel of-${each}${each === channel ? ' on' : ''}`} scope="col">
              <button
                type="button"
                tabIndex={-1}
                data-row={-2}
                data-column={3 + at}
                aria-pressed={each === channel}
                onClick={() => onChannel(each)}
                title={`${CARD.seeChannel(each)}${CARD.columnNote[each] ? `. ${CARD.columnNote[each]}` : ''}`}
              >
                {CHANNEL_WORDS[each]}
                {CARD.columnOf[each] && <small>{CARD.columnOf[each]}</small>}
              </button>
              <input
                type="checkbox"
                tabIndex={-1}
                data-row={-1}
                data-column={3 + at}
                className="tick-all"
                aria-label={CARD.tickAll(each)}
                title={CARD.tickAll(each)}
                checked={others.length > 0 && ticked === others.length}
                ref={(box) => {
                  if (box) box.indeterminate = ticked > 0 && ticked < others.length;
                }}
                onChange={() => onTickAll(each, ticked < others.length)}
              />
            </th>
          );
        })}
        <th className="more">
          <span className="visually-hidden">{CARD.settings}</span>
        </th>
      </tr>
    </thead>
  );
}
