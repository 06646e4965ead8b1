'use client';
import Link from 'next/link';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { wordingOf, type Problem } from '@/core/errors';
import { textOf, type Decision, type Field, type Remark, type ShownPicture, type ShownRow } from '@/core/roster';
import { ROSTER } from '@/core/words';
import { EditableCell } from '@/ui/card/ledger/editable-cell';

export type RowActs = {
  onMend: (rows: number[], field: Field, find: string | null, text: string) => Promise<Problem | null>;
  onDecide: (at: number, decided: { take?: boolean; decision?: Decision }) => void;
};

const MARKS = { new: '+', changed: '≠', same: '=', leaving: '→', check: '?', error: '!' } as const;

/** What is remarked of a row, each beside the cell that it is of, which can be corrected there. */
function Remarks({ row, open, onMend }: { row: ShownRow; open: boolean } & Pick<RowActs, 'onMend'>) {
  const said = ({ code, with: others }: Remark) =>
    others ? `${ROSTER.remarks[code]}${ROSTER.rowsNamed(others)}` : ROSTER.remarks[code];
  return (
    <ul className="remarks">
      {row.remarks.map((remark, at) => (
        <li key={at}>
          {remark.field && <b>{ROSTER.fields[remark.field]}: </b>}
          {remark.field && open && <MendCell row={row} field={remark.field} at={at} onMend={onMend} />} {said(remark)}
        </li>
      ))}
    </ul>
  );
}

function MendCell({ row, field, at, onMend }: { row: ShownRow; field: Field; at: number } & Pick<RowActs, 'onMend'>) {
  return (
    <EditableCell
      row={row.at}
      column={at}
      value={textOf(row.cells[field])}
      name={ROSTER.correct(ROSTER.fields[field], row.name || String(row.at))}
      empty="–"
      onCommit={(typed) => void onMend([row.at], field, null, typed)}
    />
  );
}

/** A row of a sheet: whom it is of, what it would do or has done, and what is to be said about it. */
export function RosterRowView({
  row,
  open,
  picture,
  onCrop,
  onMend,
  onDecide,
}: { row: ShownRow; open: boolean; picture: ShownPicture | null; onCrop: (picture: ShownPicture) => void } & RowActs) {
  const [cells, setCells] = useState(false);
  const { verdict } = row;
  const missing = Object.keys(row.cells).length === 0;
  const leaves = row.changes.find(({ of }) => of === 'leaves');
  const choosable =
    open && (verdict === 'new' || verdict === 'changed' || verdict === 'leaving') && row.outcome === null;
  const fields = Object.keys(row.cells) as Field[];
  return (
    <>
      <tr className={row.take || row.outcome ? undefined : 'nowhere'}>
        <td className="tick">
          {choosable && (
            <input
              type="checkbox"
              aria-label={ROSTER.takeOf(row.name)}
              checked={row.take}
              onChange={({ target }) => onDecide(row.at, { take: target.checked })}
            />
          )}
        </td>
        <td className="num">{missing ? '' : row.at}</td>
        <td className="who">
          {picture && open && row.outcome === null ? (
            <button
              type="button"
              className="portrait-button"
              aria-label={ROSTER.crop(picture.name)}
              title={ROSTER.cropText}
              onClick={() => onCrop(picture)}
            >
              <img src={`/api/pictures/${picture.square}`} alt="" width={40} height={40} />
            </button>
          ) : (
            picture && <img src={`/api/pictures/${picture.square}`} alt="" width={40} height={40} />
          )}
          <span>
            {row.record ? <Link href={`/people/${row.record}`}>{row.name || '–'}</Link> : row.name || '–'}
            <small>
              {['title', 'department']
                .map((field) => textOf(row.cells[field as Field]))
                .filter(Boolean)
                .join(' · ')}
            </small>
          </span>
        </td>
        <td className={`verdict ${verdict ?? ''}`}>
          {verdict && (
            <>
              <i aria-hidden="true">{MARKS[verdict]}</i>
              {row.outcome ? ROSTER.outcome[row.outcome] : ROSTER.verdict[verdict]}
              {row.published && <small>{ROSTER.published}</small>}
              {row.undone && <small>{ROSTER.state.undone}</small>}
            </>
          )}
        </td>
        <td>
          {!verdict && ROSTER.waits}
          {verdict === 'new' && row.outcome === null && <p>{ROSTER.isNew}</p>}
          {verdict === 'same' && <p>{ROSTER.isSame}</p>}
          {missing && <p>{ROSTER.notInSheet}</p>}
          {leaves && <p>{ROSTER.leavesOn(leaves.is)}</p>}
          <ul className="lines">
            {row.changes
              .filter(({ of }) => of !== 'leaves')
              .map(({ of, was, is }) => (
                <li key={of}>
                  <b>{ROSTER.changed[of]}</b> {was && <del>{was}</del>} <ins>{is}</ins>
                </li>
              ))}
          </ul>
          <Remarks row={row} open={open && row.outcome === null} onMend={onMend} />
          {row.problem && <p className="attention">{wordingOf(row.problem)}</p>}
          {verdict === 'check' && open && (
            <p className="decide">
              <Button size="sm" variant="quiet" onClick={() => onDecide(row.at, { decision: 'known' })}>
                {ROSTER.samePerson}
              </Button>{' '}
              <Button size="sm" variant="quiet" onClick={() => onDecide(row.at, { decision: 'new' })}>
                {ROSTER.otherPerson}
              </Button>
            </p>
          )}
        </td>
        <td className="acts-cell">
          {row.card && row.outcome && !row.undone && <Link href={`/cards/${row.card}`}>{ROSTER.openCard}</Link>}
          {open && !missing && row.outcome === null && (
            <button type="button" className="plain" aria-expanded={cells} onClick={() => setCells(!cells)}>
              {ROSTER.correctHere}
            </button>
          )}
        </td>
      </tr>
      {cells && (
        <tr className="editor">
          <td colSpan={6}>
            <dl className="row-cells">
              {fields.map((field, at) => (
                <div key={field}>
                  <dt>{ROSTER.fields[field]}</dt>
                  <dd>
                    <MendCell row={row} field={field} at={100 + at} onMend={onMend} />
                  </dd>
                </div>
              ))}
            </dl>
          </td>
        </tr>
      )}
    </>
  );
}
