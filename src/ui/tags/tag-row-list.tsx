import Link from 'next/link';
import type { RowTag } from '@/core/shown';
import { TAGS } from '@/core/words';
import { shortDayIn } from '@/ui/studio/instant';
import { bytesOf } from './device';

const W = TAGS.rows;
type Props = {
  tags: RowTag[];
  /** The one that is written next. */
  current: string | null;
  zone: string;
  onWrite: (id: string) => void;
  onLost: (tag: RowTag) => void;
  onWake: (tag: RowTag) => void;
};

const doesOf = ({ what, live }: RowTag): string => (live ? W.does[what === 'save' ? 'save' : 'card'] : W.does.frozen);

/** The tags of a placement as a checklist. */
export function TagRowList({ tags, current, zone, onWrite, onLost, onWake }: Props) {
  const numbered = tags.some(({ number }) => number !== null);
  return (
    <div className="wide">
      <table className="rows tag-row-list">
        <thead>
          <tr>
            <th aria-hidden="true" />
            {numbered && <th className="num before">{W.column.number}</th>}
            <th>{W.column.person}</th>
            <th className="wide-only">{W.column.does}</th>
            <th className="num before wide-only">{W.column.size}</th>
            <th>{W.column.state}</th>
            <th aria-hidden="true" />
          </tr>
        </thead>
        <tbody>
          {tags.map((tag) => (
            <tr key={tag.id} className={tag.id === current ? 'now' : ''} aria-current={tag.id === current}>
              <td aria-hidden="true" className="tick">
                {tag.writtenAt ? '✓' : '·'}
              </td>
              {numbered && <td className="num before">{tag.number}</td>}
              <td>
                <Link href={`/cards/${tag.cardId}/hand-outs/${tag.id}`}>{tag.person}</Link>
              </td>
              <td className="wide-only">{doesOf(tag)}</td>
              <td className="num before wide-only">{W.bytes(bytesOf(tag.memory).length, tag.room)}</td>
              <td>
                {tag.state === 'resting' ? (
                  <strong className="attention-word">{W.resting}</strong>
                ) : tag.writtenAt ? (
                  W.written(shortDayIn(zone, tag.writtenAt))
                ) : (
                  W.unwritten
                )}
                {tag.locked && `, ${W.locked}`}
              </td>
              <td className="row-acts">
                {tag.mayWrite && tag.state === 'out' && !tag.locked && tag.id !== current && (
                  <button
                    type="button"
                    className="plain"
                    aria-label={W.chooseOf(tag.person)}
                    onClick={() => onWrite(tag.id)}
                  >
                    {W.choose}
                  </button>
                )}
                {tag.mayWrite && tag.state === 'out' && (
                  <button type="button" className="plain" aria-label={W.lostOf(tag.person)} onClick={() => onLost(tag)}>
                    {W.lost}
                  </button>
                )}
                {tag.mayWrite && tag.state === 'resting' && (
                  <button type="button" className="plain" aria-label={W.wakeOf(tag.person)} onClick={() => onWake(tag)}>
                    {W.wake}
                  </button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
