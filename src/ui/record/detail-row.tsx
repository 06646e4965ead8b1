'use client';
import { FRAME, RECORD } from '@/core/words';
import { defaultLabel, nationalForm, readDetail, shownValue, type Detail } from '@/core/record';
import { EditableCell } from '@/ui/card/ledger/editable-cell';
import { DetailEditor } from './detail-editor';
import { HoursNow } from './hours-now';

type Props = {
  detail: Detail;
  row: number;
  person: string;
  country: string;
  /** The cards that show it, out of how many. */
  on: string[];
  of: number;
  dimmed: boolean;
  open: boolean;
  onOpen: () => void;
  onChange: (detail: Detail) => void;
  onRemove: () => void;
};

const MOST_NAMED = 4;

/** The cards that show a detail: by name while they are few. */
const shownOn = (on: string[], of: number): string =>
  on.length > MOST_NAMED ? RECORD.onSome(on.length, of) : on.join(', ');

/** One detail of the record: its value edited in place, the rest below it. */
export function DetailRow({ detail, row, person, country, on, of, dimmed, open, onOpen, onChange, onRemove }: Props) {
  const label = defaultLabel(detail);

  function retype(typed: string) {
    if (detail.kind === 'photo' || detail.kind === 'logo') return;
    const uses = 'uses' in detail ? detail.uses : [];
    const zone = detail.kind === 'hours' ? detail.zone : undefined;
    const read = readDetail(detail.kind, typed, { id: detail.id, country, uses, label: detail.label, zone });
    if (!read.ok) return read.problem;
    // What was set besides the text stays: preferred, purpose, map.
    const { map, geo } = detail.kind === 'address' ? detail : {};
    onChange({
      ...read.value,
      preferred: detail.preferred,
      ...(detail.kind === 'link' && detail.purpose ? { purpose: detail.purpose } : {}),
      ...(map ? { map } : {}),
      ...(geo ? { geo } : {}),
    } as Detail);
  }

  return (
    <>
      <tr className={dimmed ? 'dimmed' : undefined}>
        <td className="label">{label}</td>
        <td>
          {detail.kind === 'photo' || detail.kind === 'logo' ? (
            <img
              className={detail.kind === 'photo' ? 'portrait' : 'logo-picture'}
              src={`/api/pictures/${detail.picture}`}
              alt={detail.kind === 'photo' ? RECORD.photoOf(person) : RECORD.logoOf(person)}
              height={72}
            />
          ) : (
            <>
              <EditableCell
                row={row}
                column={1}
                value={shownValue(detail)}
                multiline={detail.kind === 'note' || detail.kind === 'own' || detail.kind === 'hours'}
                name={label}
                onCommit={retype}
              />
              {detail.kind === 'phone' && <span className="also">{nationalForm(detail, country)}</span>}
              {detail.kind === 'phone' && detail.uses.includes('text') && (
                <span className="also">{RECORD.takesTexts}</span>
              )}
              {detail.kind === 'hours' && <HoursNow hours={detail} />}
              {detail.preferred && <span className="also">{RECORD.preferred}</span>}
            </>
          )}
        </td>
        <td title={on.join(', ')}>{shownOn(on, of) || <span className="stone">{RECORD.nowhere}</span>}</td>
        <td className="acts-cell">
          <button
            type="button"
            className="plain"
            aria-expanded={open}
            aria-label={RECORD.moreOf(label)}
            onClick={onOpen}
          >
            {RECORD.more}
          </button>{' '}
          <button
            type="button"
            className="plain"
            aria-label={RECORD.removeDetail(label)}
            title={RECORD.removeNote}
            onClick={onRemove}
          >
            {FRAME.remove}
          </button>
        </td>
      </tr>
      {open && (
        <tr className="editor">
          <td colSpan={4}>
            <DetailEditor detail={detail} onChange={onChange} onClose={onOpen} />
          </td>
        </tr>
      )}
    </>
  );
}
