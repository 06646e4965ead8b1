'use client';
import Link from 'next/link';
import { Button } from 'react-bootstrap';
import { wordingOf } from '@/core/errors';
import { EXPORT, FRAME, RECORD } from '@/core/messages';
import {
  cleanLine,
  defaultLabel,
  nationalForm,
  readDetail,
  shownValue,
  splitName,
  writtenName,
  type Detail,
  type PersonRecord,
} from '@/core/record';
import { EditableCell } from '@/ui/card/editable-cell';
import { AddDetail } from './add-detail';
import { NewCard } from './new-card';
import { useRecordDraft } from './use-record-draft';

type Opened = {
  id: string;
  version: number;
  body: PersonRecord;
  cards: { id: string; audience: string; shows: string[] }[];
};

/** The record: every detail that is known, on which cards it goes out, and what came with a file and was not understood. */
export function RecordSheet({ opened, country }: { opened: Opened; country: string }) {
  const record = useRecordDraft(opened);
  const { body } = record;
  const put = (next: Detail) =>
    record.change({ ...body, details: body.details.map((detail) => (detail.id === next.id ? next : detail)) });

  function retype(detail: Detail, typed: string) {
    if (detail.kind === 'photo') return;
    const uses = 'uses' in detail ? detail.uses : [];
    const read = readDetail(detail.kind, typed, { id: detail.id, country, uses, label: detail.label });
    if (!read.ok) return read.problem;
    put({ ...read.value, preferred: detail.preferred });
  }

  return (
    <>
      <header className="head">
        <div>
          <h1>{writtenName(body.name)}</h1>
          <div className="sub">
            <span>{RECORD.about}</span>
            <span aria-live="polite">{record.state && FRAME[record.state]}</span>
            {record.canUndo && (
              <button type="button" className="plain" onClick={record.undo}>
                {FRAME.undo}
              </button>
            )}
          </div>
        </div>
        <div className="acts">
          <a className="btn btn-quiet" href={`/api/contacts?records=${opened.id}`} download title={EXPORT.recordNote}>
            {EXPORT.record}
          </a>
          <NewCard recordId={opened.id} />
        </div>
      </header>
      {record.problem && (
        <div className="banner" role="alert">
          <p>{wordingOf(record.problem)}</p>
          {record.problem.code === 'RECORD_CHANGED' ? (
            <>
              <Button variant="quiet" onClick={() => window.location.reload()}>
                {FRAME.showTheirs}
              </Button>
              <Button
                variant="quiet"
                onClick={() => record.problem?.code === 'RECORD_CHANGED' && record.putMineOver(record.problem.version)}
              >
                {FRAME.putMine}
              </Button>
            </>
          ) : (
            <Button variant="quiet" onClick={record.retry}>
              {FRAME.tryAgain}
            </Button>
          )}
        </div>
      )}
      <section className="record">
        <div className="wide">
          <table className="rows">
            <thead>
              <tr>
                <th className="label">{RECORD.column.detail}</th>
                <th>{RECORD.column.value}</th>
                <th>{RECORD.column.goesOutOn}</th>
                <th>
                  <span className="visually-hidden">{FRAME.remove}</span>
                </th>
              </tr>
            </thead>
            <tbody>
              <tr>
                <td className="label">{FRAME.name}</td>
                <td>
                  <EditableCell
                    row={0}
                    column={1}
                    value={writtenName(body.name)}
                    name={FRAME.name}
                    onCommit={(typed) => {
                      const text = cleanLine(typed).text.slice(0, 200);
                      if (!text) return { code: 'NAME_MISSING' };
                      record.change({ ...body, name: splitName(text) });
                    }}
                  />
                </td>
                <td>{opened.cards.map((card) => card.audience).join(', ')}</td>
                <td />
              </tr>
              {body.details.map((detail, at) => (
                <tr key={detail.id}>
                  <td className="label">{defaultLabel(detail)}</td>
                  <td>
                    {detail.kind === 'photo' ? (
                      <img
                        className="portrait"
                        src={`/api/pictures/${detail.picture}`}
                        alt={RECORD.photoOf(writtenName(body.name))}
                        width={72}
                        height={72}
                      />
                    ) : (
                      <>
                        <EditableCell
                          row={at + 1}
                          column={1}
                          value={shownValue(detail)}
                          multiline={detail.kind === 'note' || detail.kind === 'own'}
                          name={defaultLabel(detail)}
                          onCommit={(typed) => retype(detail, typed)}
                        />
                        {detail.kind === 'phone' && <span className="also">{nationalForm(detail, country)}</span>}
                        {detail.preferred && <span className="also">{RECORD.preferred}</span>}
                      </>
                    )}
                  </td>
                  <td>
                    {opened.cards
                      .filter((card) => card.shows.includes(detail.id))
                      .map((card) => card.audience)
                      .join(', ') || <span className="stone">{RECORD.nowhere}</span>}
                  </td>
                  <td className="acts-cell">
                    <button
                      type="button"
                      className="plain"
                      aria-label={RECORD.removeDetail(defaultLabel(detail))}
                      title={RECORD.removeNote}
                      onClick={() =>
                        record.change({ ...body, details: body.details.filter(({ id }) => id !== detail.id) })
                      }
                    >
                      {FRAME.remove}
                    </button>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
        <AddDetail
          country={country}
          onAdd={(detail) =>
            record.change({
              ...body,
              details: [...body.details.filter((other) => detail.kind !== 'photo' || other.kind !== 'photo'), detail],
            })
          }
        />
        {body.kept.length > 0 && (
          <div className="kept">
            <h2 className="caps">{RECORD.kept}</h2>
            <ul>
              {body.kept.map((kept, at) => (
                <li key={at}>
                  <code>{kept.property.slice(0, 200)}</code> <span className="also">{RECORD.keptWhy[kept.why]}</span>
                </li>
              ))}
            </ul>
          </div>
        )}
        <h2 className="caps">{RECORD.cards}</h2>
        <ul className="cards-of">
          {opened.cards.map((card) => (
            <li key={card.id}>
              <Link href={`/cards/${card.id}`}>{card.audience}</Link>{' '}
              <span className="also">{RECORD.linesOut(card.shows.length)}</span>
            </li>
          ))}
        </ul>
      </section>
    </>
  );
}
