'use client';
import Link from 'next/link';
import type { Channel } from '@/core/card';
import { dressedLines, isOfficeLine, type HouseStyle } from '@/core/house';
import type { Look } from '@/core/look';
import { CARD, GIVEN } from '@/core/words';
import { defaultLabel, shownValue } from '@/core/record';
import { LockMark } from './marks';

/** Rows for the arrow keys, below all that a card can have of its own. */
const BELOW = 1_000;

/** The lines that the house style adds to this card, below its own: locked here, with their reason. */
export function HouseRows({
  card,
  house,
  look,
  columns,
  channel,
}: {
  card: string;
  house: HouseStyle;
  look: Look;
  columns: readonly Channel[];
  channel: Channel;
}) {
  const reason = house.locks.lines;
  return (
    <tbody className="house-rows">
      {dressedLines(look, house).map((line, at) => {
        const from = isOfficeLine(line.id) ? GIVEN.office : GIVEN.house;
        const on = (each: Channel) => (each === 'page' ? line.page : each === 'file' ? line.file : false);
        return (
          <tr key={line.id} className="line">
            <td className="grip" />
            <th scope="row" className="label">
              {line.label || (isOfficeLine(line.id) ? defaultLabel(line.detail) : '')}
            </th>
            <td className="value">
              {shownValue(line.detail)}{' '}
              <small>
                {reason === undefined ? (
                  <Link href={`/cards/${card}/look`} tabIndex={-1} data-row={BELOW + at} data-column={2}>
                    {from}
                  </Link>
                ) : (
                  `${GIVEN.locked}: ${reason}`
                )}
              </small>
            </td>
            {columns.map((each) => (
              <td key={each} className={`channel of-${each}${each === channel ? ' on' : ''}`}>
                {on(each) && <LockMark label={CARD.houseLocked(each)} note={reason ?? from} />}
              </td>
            ))}
            <td className="more" />
          </tr>
        );
      })}
    </tbody>
  );
}
