import { CHANNELS, detailOf, goesOut, labelOf, type Channel, type Line } from '@/core/card';
import { CARD, CHANNEL_WORDS } from '@/core/words';
import { defaultLabel, shownValue, writtenName, type Detail, type PersonRecord } from '@/core/record';

export const SHOWN = ['all', 'out', 'nowhere', 'differs'] as const;
export type Shown = (typeof SHOWN)[number];

/** Whether a line is among those asked for. */
export function matches(
  line: Line,
  detail: Detail | null,
  record: PersonRecord,
  filter: string,
  shown: Shown,
): boolean {
  if (shown === 'out' && !goesOut(line)) return false;
  if (shown === 'nowhere' && goesOut(line)) return false;
  if (shown === 'differs' && line.wording === null && !line.own) return false;
  const wanted = filter.trim().toLowerCase();
  if (!wanted) return true;
  const of = detail ?? detailOf(line, record);
  const text = of
    ? `${labelOf(line, of)} ${defaultLabel(of)} ${shownValue(of)} ${line.wording ?? ''}`
    : `${writtenName(record.name)} ${line.wording ?? ''}`;
  return text.toLowerCase().includes(wanted);
}

type Props = {
  filter: string;
  onFilter: (filter: string) => void;
  shown: Shown;
  onShown: (shown: Shown) => void;
  columns: readonly Channel[];
  channel: Channel;
  onChannel: (channel: Channel) => void;
  onWanted: (channel: Channel) => void;
  onBackToLayout: () => void;
};

/** Above the ledger: which lines are shown, and the way back to the layout's own order. */
export function LedgerTools({
  filter,
  onFilter,
  shown,
  onShown,
  columns,
  channel,
  onChannel,
  onWanted,
  onBackToLayout,
}: Props) {
  const away = CHANNELS.filter((each) => !columns.includes(each));
  return (
    <div className="ledger-tools">
      <input
        type="search"
        className="form-control form-control-sm"
        aria-label={CARD.filter}
        placeholder={CARD.filterHint}
        value={filter}
        onChange={(event) => onFilter(event.target.value)}
        data-filter
      />
      <div className="choice" role="group" aria-label={CARD.show}>
        {SHOWN.map((each) => (
          <button key={each} type="button" aria-pressed={each === shown} onClick={() => onShown(each)}>
            {CARD.shows[each]}
          </button>
        ))}
      </div>
      {/* On a phone and beside a specimen, where the heads of the small channels have no room. */}
      <div className="choice on-phone" role="group" aria-label={CARD.channels}>
        {columns.map((each) => (
          <button key={each} type="button" aria-pressed={each === channel} onClick={() => onChannel(each)}>
            {CHANNEL_WORDS[each]}
          </button>
        ))}
      </div>
      {away.length > 0 && (
        <span className="more-columns" role="group" aria-label={CARD.addColumns}>
          <span aria-hidden="true">{CARD.addColumns}</span>
          {away.map((each) => (
            <button
              key={each}
              type="button"
              className="plain"
              aria-label={CARD.addColumn(each)}
              title={CARD.columnNote[each]}
              onClick={() => onWanted(each)}
            >
              {CARD.columnToAdd(each)}
            </button>
          ))}
        </span>
      )}
      <button type="button" className="plain" title={CARD.backToLayoutNote} onClick={onBackToLayout}>
        {CARD.backToLayout}
      </button>
    </div>
  );
}
