'use client';
import Link from 'next/link';
import { useState } from 'react';
import { COPIES, FRAME, GIVEN, RECORD } from '@/core/words';
import { defaultLabel, nationalForm, readDetail, shownValue, type Detail } from '@/core/record';
import { EditableCell } from '@/ui/card/ledger/editable-cell';
import type { OutThere } from '@/core/shown';
import type { Value } from '@/core/wild/value';
import { DetailEditor } from './detail-editor';
import { OutThereNote } from './out-there';
import { ClosedCell, useClosed } from '@/ui/studio/owned';
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
  /** What is out of the record's values. */
  out: OutThere[];
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
export function DetailRow({
  detail,
  row,
  person,
  country,
  on,
  of,
  dimmed,
  out,
  open,
  onOpen,
  onChange,
  onRemove,
}: Props) {
  const label = defaultLabel(detail);
  const closed = useClosed(detail);
  const [typed, setTyped] = useState<string | null>(null);

  /** What was typed as a detail of this kind. */
  function readTyped(text: string) {
    if (detail.kind === 'photo' || detail.kind === 'logo') return null;
    const uses = 'uses' in detail ? detail.uses : [];
    const zone = detail.kind === 'hours' ? detail.zone : undefined;
    return readDetail(detail.kind, text, { id: detail.id, country, uses, label: detail.label, zone });
  }

  function retype(typed: string) {
    const read = readTyped(typed);
    if (!read) return;
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

  const isTyping = typed !== null && typed !== shownValue(detail);
  const read = isTyping ? readTyped(typed) : null;
  const says = isTyping ? (read?.ok ? read.value : null) : detail;

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
              {closed ? (
                <ClosedCell row={row} column={1} value={shownValue(detail)} name={label} reason={closed} />
              ) : (
                <EditableCell
                  row={row}
                  column={1}
                  value={shownValue(detail)}
                  multiline={detail.kind === 'note' || detail.kind === 'own' || detail.kind === 'hours'}
                  name={label}
                  onTyping={setTyped}
                  onCommit={retype}
                />
              )}
              {detail.kind === 'phone' && <span className="also">{nationalForm(detail, country)}</span>}
              {detail.kind === 'phone' && detail.uses.includes('text') && (
                <span className="also">{RECORD.takesTexts}</span>
              )}
              {detail.kind === 'hours' && <HoursNow hours={detail} />}
              {detail.preferred && <span className="also">{RECORD.preferred}</span>}
              <OutThereNote out={out} line={detail.id} value={says as Value | null} typing={isTyping} />
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
          {!closed && (
            <button
              type="button"
              className="plain"
              aria-label={RECORD.removeDetail(label)}
              title={RECORD.removeNote}
              onClick={onRemove}
            >
              {FRAME.remove}
            </button>
          )}
        </td>
      </tr>
      {open && (
        <tr className="editor">
          <td colSpan={4}>
            {closed ? (
              <p className="note">{GIVEN.closed(closed)}</p>
            ) : (
              <DetailEditor detail={detail} onChange={onChange} onClose={onOpen} />
            )}
            {detail.kind !== 'photo' && detail.kind !== 'logo' && (
              <Link className="btn btn-quiet btn-sm" href={`/copies?q=${encodeURIComponent(shownValue(detail))}`}>
                {COPIES.whereIs}
              </Link>
            )}
          </td>
        </tr>
      )}
    </>
  );
}
