import { goesOut, NAME_LINE, type Channel, type Line } from '@/core/card';
import { CARD } from '@/core/words';
import { TAG_ROOM } from '@/core/ndef';
// Not by the door: the encoder behind it is large, and only codes on screen need it.
import { CODE_BYTES_AT_25_MM } from '@/core/qr';

/** What lines cost in a frozen code and tag, in bytes. */
export type Costs = Partial<Record<Channel, { total: number; lines: Map<string, number> }>>;

/** Bytes that the small channels have room for: a code of 25 mm, the middle of the usual tags. */
const ROOM: Partial<Record<Channel, number>> = { code: CODE_BYTES_AT_25_MM, tag: TAG_ROOM[1] };

/** About so many more lines of the size that they have so far; below zero when it is too much already. */
function linesLeft(total: number, room: number, lines: number): number {
  if (total > room) return -1;
  return lines === 0 ? 0 : Math.floor((room - total) / (total / (lines + 1)));
}

/** The totals of the columns: lines, and where room is small its costs and what is left. */
export function LedgerFoot({
  lines,
  columns,
  channel,
  costs,
}: {
  lines: Line[];
  columns: readonly Channel[];
  channel: Channel;
  costs: Costs;
}) {
  const small = columns.flatMap((each) => {
    const room = ROOM[each];
    const cost = costs[each];
    return room && cost ? [{ each, room, left: linesLeft(cost.total, room, cost.lines.size) }] : [];
  });
  return (
    <tfoot>
      <tr>
        <td />
        <td colSpan={2}>
          {CARD.foot(lines.length, lines.filter((line) => !goesOut(line)).length)}
          {small.map(({ each, left }) => (
            <span key={each} className={left < 0 ? 'too-much' : ''}>
              {' '}
              {CARD.roomOf(each, left)}
            </span>
          ))}
        </td>
        {columns.map((each) => (
          <td key={each} className={`channel of-${each}${each === channel ? ' on' : ''}`}>
            {costs[each] && ROOM[each]
              ? CARD.costs(costs[each].total, ROOM[each])
              : lines.filter((line) => line.detail === NAME_LINE || line.ticks[each]).length}
          </td>
        ))}
        <td />
      </tr>
    </tfoot>
  );
}
